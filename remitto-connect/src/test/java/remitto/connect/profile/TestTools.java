package remitto.connect.profile;

import java.time.Clock;
import java.util.List;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.outgoing.HttpCalls;
import tools.jackson.databind.json.JsonMapper;

/** Shared by the tests of profiles. */
final class TestTools {
    private TestTools() {}

    static CallTools with(Clock clock) {
        return with(new AddressGuard(List.of("127.0.0.1")), clock);
    }

    static CallTools with(AddressGuard guard, Clock clock) {
        return new CallTools(new HttpCalls(guard), JsonMapper.builder().build(), guard, clock);
    }
}

package remitto.connect.profile;

import java.net.http.HttpClient;
import java.time.Clock;
import java.util.List;
import remitto.connect.outgoing.AddressGuard;
import tools.jackson.databind.json.JsonMapper;

/** Shared by the tests of profiles. */
final class TestTools {
    private TestTools() {}

    static CallTools with(Clock clock) {
        return new CallTools(
                HttpClient.newHttpClient(),
                JsonMapper.builder().build(),
                new AddressGuard(List.of("127.0.0.1")),
                clock);
    }
}

package remitto.connect.profile;

import java.time.Clock;
import java.util.Set;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.outgoing.HttpCalls;
import tools.jackson.databind.ObjectMapper;

/** What every call is made with. */
public record CallTools(HttpCalls http, ObjectMapper json, AddressGuard guard, Clock clock) {
    /**
     * The same for calls that carry secrets.
     *
     * @param origins that the secrets were given for
     */
    public CallTools only(Set<String> origins) {
        return new CallTools(http, json, guard.only(origins), clock);
    }
}

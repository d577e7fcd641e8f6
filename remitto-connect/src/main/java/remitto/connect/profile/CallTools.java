package remitto.connect.profile;

import java.net.http.HttpClient;
import java.time.Clock;
import remitto.connect.outgoing.AddressGuard;
import tools.jackson.databind.ObjectMapper;

/** What every call is made with. */
public record CallTools(HttpClient http, ObjectMapper json, AddressGuard guard, Clock clock) {}

package remitto.server.source;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import remitto.server.harness.ClearTextServer;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** A source is let in by the same list as a destination: no private address that nobody listed is connected to. */
class SourceAddressTest {
    @Test
    void aPrivateAddressThatNobodyListedIsNotConnectedTo() throws Exception {
        try (ClearTextServer trap = ClearTextServer.start();
                TestServer server = TestServer.start(Map.of("remitto.outgoing-allowed", "127.0.0.1:9"))) {
            TestUser editor = server.user("EDITOR");
            Map<String, Object> address = new HashMap<>(server.warehouse().address("shop_reader"));
            address.put("port", trap.port());
            for (String host : List.of("127.0.0.1", "localhost", "169.254.169.254", "0.0.0.0", "0:0:0:0:0:0:0:1")) {
                address.put("host", host);
                TestUser.Answer answer = editor.post(
                        "/api/sources", Map.of("name", "At " + host, "address", address, "password", "harbour-secret"));
                assertThat(answer.ok().get("problem").asString())
                        .as(host)
                        .contains("Calls to " + host + " are not allowed; an administrator can list it.");
            }
            assertThat(trap.connections()).isZero();
        }
    }
}

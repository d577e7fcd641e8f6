package remitto.server.source;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.server.harness.ClearTextServer;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** A warehouse's password goes to the address it was given for, never in clear text, and settings of the driver come from nobody. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class WarehouseCredentialsTest {
    private TestServer server;
    private TestUser editor;
    private long source;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        source = server.warehouse().connect(editor, "Shop", "shop_reader");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private TestUser.Answer change(String part, Object value, String password) {
        Map<String, Object> address = new HashMap<>(server.warehouse().address("shop_reader"));
        address.put(part, value);
        Map<String, Object> draft = new HashMap<>(Map.of("name", "Shop", "address", address));
        if (!password.isEmpty()) {
            draft.put("password", password);
        }
        return editor.put("/api/sources/" + source, draft);
    }

    @ParameterizedTest
    @CsvSource({"host, localhost", "database, other", "user, shop_writer", "tls, REQUIRED", "port, 1"})
    void anotherAddressAsksForThePasswordAgain(String part, String value) {
        TestUser.Answer answer = change(part, part.equals("port") ? Integer.valueOf(value) : value, "");
        assertThat(answer.status()).isEqualTo(422);
        assertThat(answer.detail()).contains("Enter the password again");
        assertThat(editor.get("/api/sources/" + source)
                        .ok()
                        .get("address")
                        .get("host")
                        .asString())
                .isEqualTo("127.0.0.1");
    }

    @Test
    void aStoredPasswordIsNotSentToAMadeUpServer() throws Exception {
        try (ClearTextServer trap = ClearTextServer.start()) {
            assertThat(change("port", trap.port(), "").status()).isEqualTo(422);
            assertThat(trap.passwords()).isEmpty();
            assertThat(trap.connections()).as("it was not even called").isZero();
        }
    }

    @Test
    void aServerThatAsksForClearTextGetsNoPassword() throws Exception {
        try (ClearTextServer trap = ClearTextServer.start()) {
            Map<String, Object> address = new HashMap<>(server.warehouse().address("shop_reader"));
            address.put("port", trap.port());
            TestUser.Answer answer = editor.post(
                    "/api/sources", Map.of("name", "Trap", "address", address, "password", "harbour-secret"));
            assertThat(answer.ok().get("problem").asString()).isNotBlank();
            assertThat(trap.connections()).as("it was called").isPositive();
            assertThat(trap.passwords()).as("and got nothing").isEmpty();
        }
    }

    @Test
    void oldAndNewAddressAreInTheJournal() {
        change("host", "localhost", server.cluster().password()).ok();
        assertThat(server.journal("changed source").get(0).get("detail").asString())
                .contains("from shop_reader@127.0.0.1:")
                .contains("to shop_reader@localhost:");
        change("host", "127.0.0.1", server.cluster().password()).ok();
    }

    @Test
    void aNewNameAloneNeedsNoPassword() {
        editor.put(
                        "/api/sources/" + source,
                        Map.of("name", "Shop", "address", server.warehouse().address("shop_reader")))
                .ok();
        assertThat(editor.get("/api/sources/" + source).ok().get("problem").asString())
                .isEmpty();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "127.0.0.1/x?readOnlyMode=ignore&",
                "127.0.0.1:5432,evil.example",
                "a b",
                "",
                "127.0.0.1?socketFactory=java.lang.Object"
            })
    void aHostBringsNoSettingsOfTheDriverAlong(String host) {
        TestUser.Answer answer = change("host", host, server.cluster().password());
        assertThat(answer.status()).isEqualTo(422);
        assertThat(answer.detail()).contains("host is a name or an IP address");
    }

    @ParameterizedTest
    @ValueSource(strings = {"shop?readOnlyMode=ignore", "shop&options=-c", "sh/op", "%73hop"})
    void aDatabaseBringsNoSettingsOfTheDriverAlong(String database) {
        TestUser.Answer answer = change("database", database, server.cluster().password());
        assertThat(answer.status()).isEqualTo(422);
        assertThat(answer.detail()).contains("name of the database");
    }
}

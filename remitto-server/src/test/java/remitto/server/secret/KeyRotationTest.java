package remitto.server.secret;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import remitto.server.harness.TestCluster;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** A key is changed for another while nothing is lost, whatever interrupts it; never beside a running server. */
class KeyRotationTest {
    @TempDir
    private Path folder;

    private final TestCluster cluster = TestCluster.given();
    private TestServer server;

    @BeforeEach
    void aServerWithSecrets() {
        server = TestServer.start(Map.of("remitto.secret-key-file", key()));
        TestUser admin = server.admin();
        admin.post("/api/hash-keys", Map.of("name", "partner")).ok();
        server.warehouse().connect(admin, "Shop", "shop_reader");
    }

    @AfterEach
    void stop() {
        server.close();
    }

    private Path key() {
        return folder.resolve("secret.key");
    }

    private Connection asServer() throws SQLException {
        return DriverManager.getConnection(cluster.url(server.database()), "remitto", cluster.password());
    }

    private KeyRotation.Done rotate() throws SQLException {
        try (Connection connection = asServer()) {
            return new KeyRotation(new KeyFile(key()), connection).run();
        }
    }

    /** Every sealed value there is, and whether it names the key of the file. */
    private void allAreUnderTheKeyOfTheFile() throws Exception {
        byte[] id = KeyRing.of(Files.readAllBytes(key())).first().id();
        for (SealedColumn column : SealedColumn.ALL) {
            String wrong = cluster.text(
                    server.database(),
                    "select count(*) from " + column.table() + " where substr(" + column.column()
                            + ", 5, 4) <> decode('" + java.util.HexFormat.of().formatHex(id) + "', 'hex')");
            assertThat(wrong).as(column.table()).isEqualTo("0");
        }
    }

    private boolean sourceAnswersAfterTheStart() {
        server.again();
        long source = server.admin().get("/api/sources").ok().get(0).get("id").asLong();
        return server.admin()
                .post("/api/sources/" + source + "/test", Map.of())
                .ok()
                .path("testProblem")
                .asString("")
                .isEmpty();
    }

    @Test
    void aRunningServerIsNotTakenTheKeyFrom() throws Exception {
        byte[] before = Files.readAllBytes(key());
        assertThatThrownBy(this::rotate).hasMessageContaining("A server is running");
        assertThat(Files.readAllBytes(key())).isEqualTo(before);
    }

    @Test
    void everythingIsSealedAnewAndOpensAfterwards() throws Exception {
        byte[] before = Files.readAllBytes(key());
        server.rest();
        KeyRotation.Done done = rotate();
        assertThat(done.values()).isGreaterThanOrEqualTo(2);
        assertThat(done.finished()).isFalse();
        assertThat(Files.readAllBytes(key())).hasSize(32).isNotEqualTo(before);
        allAreUnderTheKeyOfTheFile();
        assertThat(sourceAnswersAfterTheStart()).isTrue();
    }

    @Test
    void whatWasInterruptedIsFinishedByTheNext() throws Exception {
        byte[] old = Files.readAllBytes(key());
        server.rest();
        byte[] both = Arrays.copyOf(new byte[] {1, 2, 3}, 64);
        System.arraycopy(old, 0, both, 32, 32);
        Files.write(key(), both);
        assertThat(rotate().finished()).isTrue();
        assertThat(Files.readAllBytes(key())).isEqualTo(Arrays.copyOf(both, 32));
        allAreUnderTheKeyOfTheFile();
        assertThat(sourceAnswersAfterTheStart()).isTrue();
    }

    @Test
    void aValueThatDoesNotOpenStopsItAndTheOldKeyStays() throws Exception {
        byte[] old = Files.readAllBytes(key());
        server.rest();
        cluster.run(
                server.database(),
                "update hash_key set sealed = set_byte(sealed, length(sealed) - 1, 1 # get_byte(sealed, length(sealed) - 1))");
        String source = cluster.text(server.database(), "select encode(secret, 'hex') from source limit 1");
        assertThatThrownBy(this::rotate).hasMessageContaining("cannot be opened");
        assertThat(cluster.text(server.database(), "select encode(secret, 'hex') from source limit 1"))
                .as("nothing was sealed again")
                .isEqualTo(source);
        byte[] now = Files.readAllBytes(key());
        assertThat(Arrays.copyOfRange(now, now.length - 32, now.length)).isEqualTo(old);
    }
}

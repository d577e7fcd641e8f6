package remitto.server.fileset;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.apache.sshd.common.file.virtualfs.VirtualFileSystemFactory;
import org.apache.sshd.server.SshServer;
import org.apache.sshd.server.keyprovider.SimpleGeneratorHostKeyProvider;
import org.apache.sshd.sftp.server.SftpSubsystemFactory;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestFiles;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** A harbour office that drops its lists on a server of its own. */
class SftpSourceTest {
    @TempDir
    Path root;

    private SshServer ssh() throws IOException {
        SshServer ssh = SshServer.setUpDefaultServer();
        ssh.setHost("127.0.0.1");
        ssh.setPort(0);
        SimpleGeneratorHostKeyProvider keys = new SimpleGeneratorHostKeyProvider(root.resolve("key"));
        keys.setAlgorithm("EC");
        ssh.setKeyPairProvider(keys);
        ssh.setPasswordAuthenticator(
                (user, password, session) -> user.equals("harbour") && password.equals("lantern-77"));
        ssh.setFileSystemFactory(new VirtualFileSystemFactory(Files.createDirectories(root.resolve("files"))));
        ssh.setSubsystemFactories(List.of(new SftpSubsystemFactory()));
        ssh.start();
        return ssh;
    }

    private void put(String name, String text) throws IOException {
        Path file = root.resolve("files/lists").resolve(name);
        Files.createDirectories(file.getParent());
        Files.writeString(file, text);
        Files.setLastModifiedTime(file, FileTime.from(Instant.parse("2020-01-01T00:00:00Z")));
    }

    private static Map<String, Object> address(int port, String key) {
        return Map.of(
                "kind", "file-server",
                "host", "127.0.0.1",
                "port", port,
                "folder", "lists",
                "user", "harbour",
                "hostKey", key);
    }

    private static JsonNode save(TestUser who, Map<String, Object> address, String password) {
        return who.post("/api/sources", Map.of("name", "Harbour", "address", address, "password", password))
                .ok();
    }

    @Test
    void aServerIsMetByItsKeyAndItsFilesAreRead() throws IOException {
        put("june.csv", "no,port\n1,Vik\n2,Kai\n");
        SshServer ssh = ssh();
        try (TestServer server = TestServer.start()) {
            TestUser editor = server.user("EDITOR");
            JsonNode met = save(editor, address(ssh.getPort(), ""), "lantern-77");
            assertThat(met.get("problem").asString()).contains("shows the key SHA256:");
            String key = met.get("problem").asString().replaceAll(".*(SHA256:[A-Za-z0-9+/]{43}).*", "$1");
            long source = met.get("id").asLong();
            Map<String, Object> known = address(ssh.getPort(), key);
            assertThat(editor.put("/api/sources/" + source, Map.of("name", "Harbour", "address", known))
                            .detail())
                    .as("a password is for the key that it was given for")
                    .contains("Enter the password again");
            JsonNode connected = editor.put(
                            "/api/sources/" + source,
                            Map.of("name", "Harbour", "address", known, "password", "lantern-77"))
                    .ok();
            assertThat(connected.get("problem").asString()).isEmpty();
            assertThat(connected.get("product").asString()).isEqualTo("SFTP");
            assertThat(connected.at("/report/grants").toString()).contains("ForceCommand internal-sftp -R");
            assertThat(connected.toString()).doesNotContain("lantern-77");

            Map<String, Object> draft = new HashMap<>(Map.of(
                    "name",
                    "Lists",
                    "sourceId",
                    source,
                    "table",
                    "lists",
                    "basedOn",
                    0,
                    "definition",
                    TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "no INTEGER", "port TEXT")));
            long set = editor.post("/api/file-sets", draft).ok().get("id").asLong();
            assertThat(read(editor, set).at("/result/read").asInt()).isEqualTo(1);
            assertThat(server.cluster()
                            .text(server.database(), "select string_agg(port, ' ' order by no) from landed.lists"))
                    .isEqualTo("Vik Kai");
            ssh.stop(true);
            JsonNode away = read(editor, set);
            assertThat(away.get("state").asString()).isEqualTo("FAILED");
            assertThat(editor.post(
                                    "/api/datasets/preview",
                                    Map.of(
                                            "sourceId",
                                            source,
                                            "query",
                                            Map.of("kind", "sql", "text", "select no from landed.lists")))
                            .status())
                    .as("what has landed is read all the same")
                    .isEqualTo(200);
        } finally {
            ssh.stop(true);
        }
    }

    private static JsonNode read(TestUser editor, long set) {
        long job = editor.post("/api/file-sets/" + set + "/readings", Map.of())
                .ok()
                .get("id")
                .asLong();
        return Awaited.value(
                "the files to be read",
                () -> editor.get("/api/file-sets/readings/" + job).ok(),
                one -> !one.get("state").asString().equals("UNDER_WAY"));
    }
}

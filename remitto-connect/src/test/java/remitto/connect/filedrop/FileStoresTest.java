package remitto.connect.filedrop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.List;
import org.apache.sshd.common.config.keys.KeyUtils;
import org.apache.sshd.common.digest.BuiltinDigests;
import org.apache.sshd.common.file.virtualfs.VirtualFileSystemFactory;
import org.apache.sshd.common.keyprovider.KeyPairProvider;
import org.apache.sshd.server.SshServer;
import org.apache.sshd.server.keyprovider.SimpleGeneratorHostKeyProvider;
import org.apache.sshd.sftp.server.SftpSubsystemFactory;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.core.fileset.ListedFile;

/** What every place of files does, over a folder of this machine and the same folder by SFTP. */
class FileStoresTest {
    private static final Instant WRITTEN = Instant.parse("2026-05-31T08:00:00Z");

    @TempDir
    Path root;

    private Path drop;
    private SshServer ssh;
    private String hostKey;

    @BeforeEach
    void begin() throws Exception {
        drop = Files.createDirectories(root.resolve("inbox/drop"));
        ssh = SshServer.setUpDefaultServer();
        ssh.setPort(0);
        ssh.setHost("127.0.0.1");
        SimpleGeneratorHostKeyProvider keys = new SimpleGeneratorHostKeyProvider(root.resolve("key"));
        keys.setAlgorithm("EC");
        ssh.setKeyPairProvider(keys);
        ssh.setPasswordAuthenticator((user, password, session) -> password.equals("hush"));
        ssh.setFileSystemFactory(new VirtualFileSystemFactory(root.resolve("inbox")));
        ssh.setSubsystemFactories(List.of(new SftpSubsystemFactory()));
        ssh.start();
        hostKey = KeyUtils.getFingerPrint(
                BuiltinDigests.sha256.create(),
                KeyPairProvider.class
                        .cast(keys)
                        .loadKeys(null)
                        .iterator()
                        .next()
                        .getPublic());
    }

    @AfterEach
    void end() throws IOException {
        ssh.stop(true);
    }

    private FileStore store(String kind) {
        return kind.equals("folder") ? new FolderStore(root.resolve("inbox"), "drop") : sftp("drop", "hush", hostKey);
    }

    private FileStore sftp(String folder, String password, String key) {
        return new SftpStore(
                new SftpStore.Login("127.0.0.1", ssh.getPort(), folder, "harbour", key, password),
                new AddressGuard(List.of("127.0.0.1")));
    }

    private Path put(String path, String text) throws IOException {
        Path file = drop.resolve(path);
        Files.createDirectories(file.getParent());
        Files.writeString(file, text);
        Files.setLastModifiedTime(file, FileTime.from(WRITTEN));
        return file;
    }

    private static String text(FileStore store, String path) throws IOException {
        return store.read(path, bytes -> new String(bytes.readAllBytes(), StandardCharsets.UTF_8));
    }

    @ParameterizedTest
    @ValueSource(strings = {"folder", "sftp"})
    void filesAreListedWithWhatTellsAChange(String kind) throws IOException {
        put("a.csv", "1,2\n");
        put("vik/June 1.csv", "å");
        assertThat(store(kind).list())
                .containsExactlyInAnyOrder(
                        new ListedFile("a.csv", 4, WRITTEN, ""), new ListedFile("vik/June 1.csv", 2, WRITTEN, ""));
        assertThat(text(store(kind), "vik/June 1.csv")).isEqualTo("å");
        assertThat(store(kind).check()).contains("drop");
    }

    @ParameterizedTest
    @ValueSource(strings = {"folder", "sftp"})
    void filesAreArchivedBesideAndDeleted(String kind) throws IOException {
        put("vik/a.csv", "1");
        put("vik/read/a.csv", "0");
        put("b.csv", "2");
        store(kind).archive("vik/a.csv");
        store(kind).archive("b.csv");
        assertThat(drop.resolve("vik/read/a.csv")).hasContent("1");
        assertThat(drop.resolve("read/b.csv")).hasContent("2");
        assertThat(drop.resolve("vik/a.csv")).doesNotExist();
        store(kind).delete("read/b.csv");
        store(kind).delete("read/b.csv");
        assertThat(drop.resolve("read/b.csv")).doesNotExist();
    }

    @ParameterizedTest
    @ValueSource(strings = {"folder", "sftp"})
    void whatIsNotThereIsSaid(String kind) {
        assertThatThrownBy(() -> text(store(kind), "gone.csv"))
                .isInstanceOfSatisfying(SourceProblem.class, problem -> assertThat(problem.kind())
                        .isEqualTo(Kind.NOT_OFFERED))
                .hasMessageContaining("gone.csv");
    }

    @ParameterizedTest
    @ValueSource(strings = {"folder", "sftp"})
    void noPathClimbsOut(String kind) throws IOException {
        Files.writeString(root.resolve("inbox/secret.csv"), "secret");
        for (String path : List.of("../secret.csv", "a/../../secret.csv", "/etc/passwd", "")) {
            FileStore store = store(kind);
            assertThatThrownBy(() -> text(store, path)).as(path).isInstanceOf(SourceProblem.class);
            assertThatThrownBy(() -> store.delete(path)).as(path).isInstanceOf(SourceProblem.class);
            assertThatThrownBy(() -> store.archive(path)).as(path).isInstanceOf(SourceProblem.class);
        }
        assertThat(root.resolve("inbox/secret.csv")).exists();
    }

    @Test
    void linksAreNeitherListedNorFollowed() throws IOException {
        Files.writeString(root.resolve("secret.csv"), "secret");
        Files.createSymbolicLink(drop.resolve("link.csv"), root.resolve("secret.csv"));
        Files.createSymbolicLink(drop.resolve("away"), root);
        FileStore store = store("folder");
        assertThat(store.list()).isEmpty();
        assertThatThrownBy(() -> text(store, "link.csv")).isInstanceOf(SourceProblem.class);
        assertThatThrownBy(() -> text(store, "away/secret.csv"))
                .isInstanceOf(SourceProblem.class)
                .hasMessageContaining("leads out of");
        assertThatThrownBy(() -> store.delete("away/secret.csv")).isInstanceOf(SourceProblem.class);
        assertThat(root.resolve("secret.csv")).exists();
    }

    @Test
    void aFolderIsBelowTheInboxAndThere() {
        assertThatThrownBy(() -> new FolderStore(root.resolve("inbox"), "../elsewhere"))
                .isInstanceOf(SourceProblem.class)
                .hasMessageContaining("outside of the folder");
        assertThatThrownBy(() -> new FolderStore(root.resolve("inbox"), "/etc")).hasMessageContaining("outside");
        assertThatThrownBy(() -> new FolderStore(root.resolve("inbox"), "other").check())
                .isInstanceOfSatisfying(SourceProblem.class, problem -> assertThat(problem.kind())
                        .isEqualTo(Kind.UNREACHABLE))
                .hasMessageContaining("There is no folder");
    }

    private static Kind kind(FileStore store) {
        try {
            store.check();
            return Kind.CANCELLED;
        } catch (SourceProblem e) {
            return e.kind();
        }
    }

    @Test
    void aServerIsKnownByItsKeyAndALoginByItsPassword() throws IOException {
        assertThat(kind(sftp("drop", "hush", hostKey))).as("none").isEqualTo(Kind.CANCELLED);
        assertThat(kind(sftp("drop", "loud", hostKey))).isEqualTo(Kind.SIGN_IN_REFUSED);
        assertThat(kind(sftp("drop", "hush", "SHA256:another"))).isEqualTo(Kind.ADDRESS_REFUSED);
        assertThatThrownBy(() -> sftp("drop", "hush", "").check()).hasMessageContaining("shows the key " + hostKey);
        assertThat(kind(sftp("other", "hush", hostKey))).isEqualTo(Kind.NOT_OFFERED);
        FileStore unlisted = new SftpStore(
                new SftpStore.Login("127.0.0.1", ssh.getPort(), "drop", "harbour", hostKey, "hush"),
                new AddressGuard(List.of()));
        assertThat(kind(unlisted)).isEqualTo(Kind.ADDRESS_REFUSED);
        ssh.stop(true);
        assertThat(kind(sftp("drop", "hush", hostKey))).isEqualTo(Kind.UNREACHABLE);
    }
}

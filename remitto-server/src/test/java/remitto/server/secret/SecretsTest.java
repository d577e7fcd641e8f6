package remitto.server.secret;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import remitto.server.platform.JsonForTests;
import remitto.server.platform.RemittoProperties;

class SecretsTest {
    @TempDir
    private Path folder;

    private Secrets secrets(String keyFile) {
        return secrets(keyFile, () -> false);
    }

    private Secrets secrets(String keyFile, SealedThings sealed) {
        return new Secrets(
                new RemittoProperties(
                        folder.resolve(keyFile),
                        List.of(),
                        List.of(),
                        folder,
                        new RemittoProperties.Administrator("", "")),
                JsonForTests.json(),
                sealed);
    }

    @Test
    void aKeyThatIsMissingIsNotMadeAnewWhileSomethingIsSealed() {
        assertThatThrownBy(() -> secrets("lost.key", () -> true))
                .hasMessageContaining("lost.key is missing")
                .hasMessageContaining("Put the file back");
        assertThat(folder.resolve("lost.key")).doesNotExist();
        secrets("lost.key", () -> false);
        assertThat(folder.resolve("lost.key")).hasSize(32);
    }

    @Test
    void aKeyThatIsShortStopsTheStart() throws Exception {
        for (int length : new int[] {0, 16, 31, 33}) {
            Files.write(folder.resolve("cut.key"), new byte[length]);
            assertThatThrownBy(() -> secrets("cut.key"))
                    .hasMessageContaining("holds " + length + " bytes where a key has 32");
        }
    }

    @Test
    void whatIsSealedCanBeOpenedWithTheSameKeyOnly() {
        byte[] sealed = secrets("one.key").seal(Map.of("password", "lighthouse"));
        assertThat(secrets("one.key").open(sealed)).isEqualTo(Map.of("password", "lighthouse"));
        assertThat(new String(sealed, StandardCharsets.ISO_8859_1)).doesNotContain("lighthouse");
        assertThatThrownBy(() -> secrets("two.key").open(sealed)).hasMessageContaining("key file");
    }

    @Test
    void theSameSecretIsNeverSealedTheSameWay() {
        Secrets secrets = secrets("one.key");
        assertThat(secrets.seal(Map.of("a", "b"))).isNotEqualTo(secrets.seal(Map.of("a", "b")));
    }

    @Test
    void aChangedByteIsNoticed() {
        Secrets secrets = secrets("one.key");
        byte[] sealed = secrets.seal(Map.of("a", "b"));
        sealed[sealed.length - 1] ^= 1;
        assertThatThrownBy(() -> secrets.open(sealed)).isInstanceOf(IllegalStateException.class);
    }

    @Test
    void theKeyFileIsForItsOwnerAlone() throws Exception {
        secrets("one.key");
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(folder.resolve("one.key"))))
                .isEqualTo("rw-------");
    }
}

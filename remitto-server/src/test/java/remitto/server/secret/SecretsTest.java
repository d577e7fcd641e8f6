package remitto.server.secret;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Map;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import remitto.server.platform.JsonForTests;
import remitto.server.platform.RemittoProperties;

class SecretsTest {
    private static final Place HERE = Place.of("source", 7);

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
                        "",
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
        for (int length : new int[] {0, 16, 31, 33, 63}) {
            Files.write(folder.resolve("cut.key"), new byte[length]);
            assertThatThrownBy(() -> secrets("cut.key"))
                    .hasMessageContaining("holds " + length + " bytes where a key has 32");
        }
    }

    @Test
    void whatIsSealedCanBeOpenedWithTheSameKeyOnly() {
        byte[] sealed = secrets("one.key").seal(HERE, Map.of("password", "lighthouse"));
        assertThat(secrets("one.key").open(HERE, sealed)).isEqualTo(Map.of("password", "lighthouse"));
        assertThat(new String(sealed, StandardCharsets.ISO_8859_1)).doesNotContain("lighthouse");
        assertThatThrownBy(() -> secrets("two.key").open(HERE, sealed)).hasMessageContaining("key file");
    }

    @Test
    void whatIsSealedForOneRowDoesNotOpenInAnother() {
        Secrets secrets = secrets("one.key");
        byte[] sealed = secrets.seal(HERE, Map.of("password", "lighthouse"));
        assertThatThrownBy(() -> secrets.open(Place.of("source", 8), sealed)).hasMessageContaining("another place");
        assertThatThrownBy(() -> secrets.open(Place.of("destination", 7), sealed))
                .hasMessageContaining("another place");
    }

    /** Nonce and sealed bytes alone, as versions before sealed them. */
    @Test
    void whatWasSealedBeforeStillOpens() throws Exception {
        Secrets secrets = secrets("one.key");
        byte[] nonce = new byte[12];
        Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
        cipher.init(
                Cipher.ENCRYPT_MODE,
                new SecretKeySpec(Files.readAllBytes(folder.resolve("one.key")), "AES"),
                new GCMParameterSpec(128, nonce));
        byte[] sealed = cipher.doFinal("{\"password\":\"lighthouse\"}".getBytes(StandardCharsets.UTF_8));
        byte[] before = new byte[nonce.length + sealed.length];
        System.arraycopy(sealed, 0, before, nonce.length, sealed.length);
        assertThat(secrets.open(HERE, before)).isEqualTo(Map.of("password", "lighthouse"));
    }

    @Test
    void whileAKeyIsRotatedBothOpenAndTheNewOneSeals() throws Exception {
        byte[] old = secrets("old.key").seal(HERE, Map.of("a", "old"));
        byte[] fresh = secrets("new.key").seal(HERE, Map.of("a", "new"));
        byte[] both = new byte[64];
        System.arraycopy(Files.readAllBytes(folder.resolve("new.key")), 0, both, 0, 32);
        System.arraycopy(Files.readAllBytes(folder.resolve("old.key")), 0, both, 32, 32);
        Files.write(folder.resolve("both.key"), both);
        Secrets secrets = secrets("both.key");
        assertThat(secrets.open(HERE, old)).isEqualTo(Map.of("a", "old"));
        assertThat(secrets.open(HERE, fresh)).isEqualTo(Map.of("a", "new"));
        assertThat(secrets("new.key").open(HERE, secrets.seal(HERE, Map.of("a", "b"))))
                .isEqualTo(Map.of("a", "b"));
    }

    @Test
    void theSameSecretIsNeverSealedTheSameWay() {
        Secrets secrets = secrets("one.key");
        assertThat(secrets.seal(HERE, Map.of("a", "b"))).isNotEqualTo(secrets.seal(HERE, Map.of("a", "b")));
    }

    @Test
    void aChangedByteIsNoticed() {
        Secrets secrets = secrets("one.key");
        byte[] sealed = secrets.seal(HERE, Map.of("a", "b"));
        sealed[sealed.length - 1] ^= 1;
        assertThatThrownBy(() -> secrets.open(HERE, sealed)).isInstanceOf(IllegalStateException.class);
    }

    @Test
    void theKeyFileIsForItsOwnerAlone() throws Exception {
        secrets("one.key");
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(folder.resolve("one.key"))))
                .isEqualTo("rw-------");
    }
}

package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The Debian package in a clean root: installed, set up, run as its unit runs it, upgraded, removed and purged. */
class PackageTest {
    @Test
    void itIsInstalledRunAndRemovedWithoutATrace(@TempDir Path folder) throws Exception {
        Path debian = Path.of("..", "remitto-debian").toAbsolutePath().normalize();
        Path said = folder.resolve("said.txt");
        Path work = Files.createDirectory(folder.resolve("work"));
        Process process = new ProcessBuilder(
                        debian.resolve("src/test/try-package.sh").toString(),
                        debian.resolve("target/remitto_0.1.0_all.deb").toString(),
                        work.toString(),
                        Integer.toString(Berth.port()),
                        Integer.toString(Berth.port()))
                .redirectErrorStream(true)
                .redirectOutput(said.toFile())
                .start();
        assertThat(process.waitFor(8, TimeUnit.MINUTES)).as("it ended").isTrue();
        assertThat(Files.readString(said).lines())
                .containsExactly(
                        "seen: installed, with a user of its own",
                        "seen: the command runs, and bash completes it",
                        "seen: without a database it says so, and leaves nothing",
                        "seen: set up, started as its unit starts it, and somebody can come in",
                        "seen: another key, and started again",
                        "seen: removed, and purged without a trace");
        assertThat(process.exitValue()).isZero();
    }
}

package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What ends itself for want of memory is started again by the start script; what ends otherwise, or keeps doing so, is not. */
class StartedAgainTest {
    @TempDir
    Path folder;

    /**
     * Starts a program by the script's own function in place of a server.
     *
     * @param program what takes the place of {@code java}; {@code $n} is which start it is
     * @return what the log holds once nothing runs any more
     */
    private String run(String program) throws IOException, InterruptedException {
        Path java = folder.resolve("java");
        Files.writeString(
                java,
                "#!/bin/bash\nn=$(($(cat \"" + folder + "/n\" 2>/dev/null) + 1)); echo $n >\"" + folder + "/n\"\n"
                        + program + "\n");
        assertThat(java.toFile().setExecutable(true)).isTrue();
        Process started = new ProcessBuilder(
                        "bash",
                        "-c",
                        "functions=$(sed -n '/^KEEP_RUNNING=/,/^}/p' ../remitto); eval \"$functions\";"
                                + " mkdir -p " + folder + "/run; HOME_DIR=" + folder + " LOGS=" + folder + " PATH="
                                + folder + ":$PATH;"
                                + " start_java server -jar any.jar;"
                                + " while kill -0 $(cat " + folder + "/run/server.pid) 2>/dev/null; do sleep 0.1; done")
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("script.log").toFile())
                .start();
        assertThat(started.waitFor(60, TimeUnit.SECONDS)).as("it ended").isTrue();
        assertThat(Files.readString(folder.resolve("script.log"))).isEmpty();
        return Files.readString(folder.resolve("server.log"));
    }

    @Test
    void itIsStartedAgainUntilItEndsOtherwise() throws Exception {
        assertThat(run("echo start $n; [ $n -lt 3 ] && exit 3; exit 0").lines())
                .containsExactly(
                        "start 1",
                        "It ran out of memory and is started again.",
                        "start 2",
                        "It ran out of memory and is started again.",
                        "start 3");
    }

    @Test
    void anotherEndIsTheEnd() throws Exception {
        assertThat(run("echo start $n; exit 1").lines()).containsExactly("start 1");
    }

    @Test
    void itIsGivenUpAfterThreeTimesInARow() throws Exception {
        assertThat(run("echo start $n; exit 3").lines())
                .hasSize(6)
                .endsWith("start 3", "It ran out of memory three times in a row. Give it more.");
    }

    @Test
    void aRealExhaustionIsOne() throws Exception {
        Path source = folder.resolve("Greedy.java");
        Files.writeString(
                source,
                "class Greedy { public static void main(String[] a) { var all = new java.util.ArrayList<byte[]>();"
                        + " while (true) all.add(new byte[1 << 20]); } }");
        String real = ProcessHandle.current().info().command().orElseThrow();
        assertThat(run("echo start $n; [ $n = 2 ] && exit 0; exec " + real + " -Xmx40m -XX:+ExitOnOutOfMemoryError "
                                + source)
                        .lines())
                .startsWith("start 1")
                .endsWith("It ran out of memory and is started again.", "start 2");
    }
}

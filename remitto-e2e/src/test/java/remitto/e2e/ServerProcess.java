package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import remitto.demo.history.Api;

/** The packaged server as a process of its own, which may be killed. */
final class ServerProcess {
    private final Process process;
    private final Api api;

    private ServerProcess(Process process, Api api) {
        this.process = process;
        this.api = api;
    }

    /** Starts a server on a stack's databases and signs in. */
    static ServerProcess start(Stack stack, int port) throws IOException, InterruptedException {
        Path jar = Path.of("..", "remitto-server", "target", "remitto-server-0.1.0-app.jar");
        assertThat(jar).as("the packaged server").exists();
        List<String> command = new ArrayList<>(List.of(
                "java",
                "-XX:TieredStopAtLevel=1",
                "-Dspring.aot.enabled=true",
                "-jar",
                jar.toString(),
                "--server.port=" + port));
        stack.properties().forEach((name, value) -> command.add("--" + name + "=" + value));
        Path log = stack.folder.resolve("server-" + port + ".log");
        Process process = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(log.toFile()))
                .start();
        Api api = new Api(URI.create("http://127.0.0.1:" + port));
        while (true) {
            try {
                return new ServerProcess(process, api.signIn("admin@halvorn.example", Stack.PASSWORD));
            } catch (java.io.UncheckedIOException e) {
                assertThat(process.isAlive()).as(Files.readString(log)).isTrue();
                TimeUnit.MILLISECONDS.sleep(100);
            }
        }
    }

    Api api() {
        return api;
    }

    /** SIGKILL; returns once it is gone. */
    void kill() {
        process.destroyForcibly().onExit().join();
    }
}

package remitto.bench.crash;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** A Java program in a process of its own that may be killed and started again. */
final class Child implements AutoCloseable {
    private final List<String> command;
    private final Path log;
    private Process process;

    Child(Path log, List<String> arguments) throws IOException {
        this.log = log;
        this.command = new ArrayList<>(List.of("java", "-Xmx512m", "-XX:TieredStopAtLevel=1"));
        this.command.addAll(arguments);
        this.process = launch();
    }

    private Process launch() throws IOException {
        return new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(log.toFile()))
                .start();
    }

    /** SIGKILL; returns once the process is gone. */
    void kill() {
        process.destroyForcibly().onExit().join();
    }

    void start() throws IOException {
        process = launch();
    }

    boolean isAlive() {
        return process.isAlive();
    }

    @Override
    public void close() {
        kill();
    }
}

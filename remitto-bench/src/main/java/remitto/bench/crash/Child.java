package remitto.bench.crash;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** A Java program in a process of its own that may be killed, stopped for a while, and started again. */
final class Child implements AutoCloseable {
    private final List<String> command;
    private final Path log;
    private Process process;

    Child(Path log, List<String> arguments) throws IOException {
        this.log = log;
        this.command =
                new ArrayList<>(List.of("java", "-Xmx512m", "-XX:TieredStopAtLevel=1", "-Dspring.aot.enabled=true"));
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

    /** Stops it where it is, as a machine that sleeps would. */
    void pause() throws IOException, InterruptedException {
        Signal.STOP.to(List.of(process.pid()));
    }

    void resume() throws IOException, InterruptedException {
        Signal.CONT.to(List.of(process.pid()));
    }

    boolean isAlive() {
        return process.isAlive();
    }

    @Override
    public void close() {
        kill();
    }
}

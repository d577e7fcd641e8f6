package remitto.bench.crash;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Signals that Java has no call for. */
enum Signal {
    STOP,
    CONT;

    /** Processes that are gone meanwhile are passed over. */
    void to(List<Long> processes) throws IOException, InterruptedException {
        List<String> command = new ArrayList<>(List.of("kill", "-" + name()));
        processes.forEach(pid -> command.add(Long.toString(pid)));
        new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start()
                .waitFor();
    }
}

package remitto.command;

import java.io.BufferedReader;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.util.Map;

/** What a command is run in: its environment, who answers its questions, and how it waits. */
public interface Surroundings {
    Map<String, String> environment();

    /** Whether somebody could answer. */
    boolean isAsked();

    /** The next line that somebody types; empty where nobody does. */
    String answer();

    Clock clock();

    void sleep(Duration time);

    /** Those of the process. */
    static Surroundings ofProcess() {
        return new Surroundings() {
            @Override
            public Map<String, String> environment() {
                return System.getenv();
            }

            @Override
            public boolean isAsked() {
                return System.console() != null;
            }

            @Override
            public String answer() {
                try {
                    String line =
                            new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8)).readLine();
                    return line == null ? "" : line;
                } catch (java.io.IOException e) {
                    return "";
                }
            }

            @Override
            public Clock clock() {
                return Clock.systemUTC();
            }

            @Override
            public void sleep(Duration time) {
                try {
                    Thread.sleep(time.toMillis());
                } catch (InterruptedException e) {
                    Thread.currentThread().interrupt();
                    throw new CommandProblem(Exit.REFUSED, "Interrupted.");
                }
            }
        };
    }
}

package remitto.command;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import picocli.CommandLine;

/** A terminal in which a command is typed. Waiting takes no time. */
final class Terminal implements Surroundings {
    private final Map<String, String> environment = new HashMap<>();
    private Optional<String> answer = Optional.empty();
    private Instant now = Instant.parse("2026-12-01T08:00:00Z");

    /** What came of a command. */
    record Outcome(int exit, String out, String err) {}

    Terminal with(String name, String value) {
        environment.put(name, value);
        return this;
    }

    /** Somebody sits there and types this. */
    Terminal answering(String text) {
        answer = Optional.of(text);
        return this;
    }

    Outcome types(String... arguments) {
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        CommandLine line = RemittoCommand.line(this);
        line.setOut(new PrintWriter(out, true));
        line.setErr(new PrintWriter(err, true));
        int exit = line.execute(arguments);
        return new Outcome(exit, out.toString(), err.toString());
    }

    @Override
    public Map<String, String> environment() {
        return environment;
    }

    @Override
    public boolean isAsked() {
        return answer.isPresent();
    }

    @Override
    public String answer() {
        return answer.orElse("");
    }

    @Override
    public Clock clock() {
        return Clock.fixed(now, ZoneOffset.UTC);
    }

    @Override
    public void sleep(Duration time) {
        now = now.plus(time);
    }
}

package remitto.standins.fault;

import io.javalin.http.Context;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import org.eclipse.jetty.ee10.servlet.ServletContextRequest;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** What every call passes: the faults somebody switched on, the limit, the sign-in, and the log of calls. */
public final class Gate {
    /** After these the caller has no answer to believe. */
    private static final Set<String> UNHEARD = Set.of("drop-before", "drop-after", "not-json");

    private final FaultPanel faults;
    private final CallLimit limit;
    private final CallLog calls;
    private final Witness witness;
    private final Clock clock;
    private final ObjectMapper json;

    public Gate(FaultPanel faults, CallLimit limit, CallLog calls, Witness witness, Clock clock, ObjectMapper json) {
        this.witness = witness;
        this.faults = faults;
        this.limit = limit;
        this.calls = calls;
        this.clock = clock;
        this.json = json;
    }

    /**
     * A call that got through.
     *
     * @param partial every other record of it is to be refused
     * @param told takes what the answer says of each line, in their order
     */
    public record Through(String client, boolean partial, List<String> told) {
        /** What a person writes, which nobody counts. */
        public static Through atTheDesk(String client) {
            return new Through(client, false, new ArrayList<>());
        }
    }

    /** Names the lines that a call would write, each the same whenever it comes in again. */
    public interface Lines {
        List<String> of(JsonNode body);
    }

    /** A call that only reads. */
    public static final Lines NONE = body -> List.of();

    /** Answers a call that got through. */
    public interface Handler {
        void handle(Through through);
    }

    /** A call that cannot be taken as it stands. */
    public static final class Refusal extends RuntimeException {
        private final int status;

        public Refusal(int status, String message) {
            super(message);
            this.status = status;
        }
    }

    /**
     * @param client who calls; empty for nobody known
     * @param problem name under which answers say what is wrong
     * @param expire makes every sign-in invalid
     * @param lines those it would write
     */
    public void pass(
            Context context,
            Supplier<Optional<String>> client,
            String problem,
            Runnable expire,
            Lines lines,
            Handler handler) {
        List<String> told = new ArrayList<>();
        Optional<Long> seen = lines == NONE ? Optional.empty() : Optional.of(received(context, lines));
        Set<String> kinds = passed(context, client, problem, expire, told, handler);
        boolean lost = kinds.stream().anyMatch(UNHEARD::contains);
        seen.ifPresent(call -> witness.ended(call, context.statusCode(), !lost, told));
    }

    private long received(Context context, Lines lines) {
        return witness.received(
                clock.instant(),
                Optional.ofNullable(context.header("X-Request-ID")).orElse(""),
                Optional.ofNullable(context.header("Once-Key")).orElse(""),
                context.path(),
                named(context, lines));
    }

    private List<String> named(Context context, Lines lines) {
        try {
            return lines.of(json.readTree(context.bodyAsBytes()));
        } catch (JacksonException e) {
            return List.of();
        }
    }

    /** @return the faults that struck it */
    private Set<String> passed(
            Context context,
            Supplier<Optional<String>> client,
            String problem,
            Runnable expire,
            List<String> told,
            Handler handler) {
        List<FaultPanel.Fault> struck = faults.strike(context.path());
        Set<String> kinds = new HashSet<>();
        struck.forEach(fault -> kinds.add(fault.fault()));
        struck.stream().filter(fault -> fault.fault().equals("latency")).forEach(fault -> pause(fault.millis()));
        Optional<Duration> wait =
                kinds.contains("too-many") ? Optional.of(Duration.ofSeconds(1)) : limit.take(System.nanoTime());
        String who = "";
        if (kinds.contains("expired-token")) {
            expire.run();
        }
        if (kinds.contains("drop-before")) {
            drop(context);
        } else if (wait.isPresent()) {
            context.header("Retry-After", Long.toString((wait.get().toMillis() + 999) / 1000));
            answer(context, 429, problem, "too many calls");
        } else if (kinds.contains("refuse-whole")) {
            answer(context, 400, problem, "a record of this call cannot be read");
        } else if (kinds.contains("server-error")) {
            answer(context, 500, problem, "something broke in the engine room");
        } else {
            who = client.get().orElse("");
            if (who.isEmpty()) {
                context.header("WWW-Authenticate", "Bearer error=\"invalid_token\"");
                answer(context, 401, problem, "the sign-in is unknown or has expired");
            } else {
                handle(context, new Through(who, kinds.contains("partial"), told), problem, handler);
            }
            if (kinds.contains("drop-after")) {
                drop(context);
            } else if (kinds.contains("not-json")) {
                context.contentType("text/html").result("<html><body>Gone fishing</body></html>");
            }
        }
        calls.add(clock.instant(), who, context.method().name(), context.path(), context.statusCode());
        return kinds;
    }

    private void handle(Context context, Through through, String problem, Handler handler) {
        try {
            handler.handle(through);
        } catch (Refusal refusal) {
            answer(context, refusal.status, problem, String.valueOf(refusal.getMessage()));
        } catch (JacksonException e) {
            answer(context, 400, problem, "the body is not JSON");
        }
    }

    private void answer(Context context, int status, String name, String message) {
        context.status(status)
                .contentType("application/json")
                .result(json.writeValueAsBytes(json.createObjectNode().put(name, message)));
    }

    private static void drop(Context context) {
        ServletContextRequest.getServletContextRequest(context.req())
                .getConnectionMetaData()
                .getConnection()
                .getEndPoint()
                .close();
    }

    private static void pause(int millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}

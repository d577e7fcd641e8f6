package remitto.standins.foghorn;

import io.javalin.Javalin;
import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.standins.fault.FaultPanel;
import remitto.standins.fault.FrontDesk;
import remitto.standins.fault.Gate;
import remitto.standins.page.Html;
import remitto.standins.store.DurableLog;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.json.JsonMapper;

/** Foghorn Chat, running on a loopback port: a hook that takes messages and tells nothing back. */
public final class Foghorn implements AutoCloseable {
    /** The secret part of the demo's hook. */
    public static final String HOOK = "fog-5519";

    /** Its hook never expires, and takes one message at a time. */
    private static final List<String> FAULTS = FaultPanel.KINDS.stream()
            .filter(kind -> !List.of("expired-token", "partial").contains(kind))
            .toList();

    private static final int CALLS = 30;
    private static final Duration WINDOW = Duration.ofSeconds(10);
    private static final int SHOWN = 100;
    private static final long LARGEST_BODY = 1_000_000L;

    private final Javalin app;
    private final ObjectMapper json;
    private final DurableLog log;
    private final Clock clock;
    private final FrontDesk desk;
    private final Gate gate;
    private final FoghornFrame frame = new FoghornFrame();
    private final List<Message> messages = new ArrayList<>();

    private record Message(Instant at, String text) {}

    private Foghorn(int port, Path data) {
        json = JsonMapper.builder().build();
        log = new DurableLog(
                data,
                json,
                line -> messages.add(new Message(
                        Instant.parse(line.get("at").asString()),
                        line.get("text").asString())));
        desk = new FrontDesk(FAULTS, CALLS, WINDOW, frame, json, data);
        clock = desk.clock();
        gate = desk.gate();
        app = desk.open(port, LARGEST_BODY, this::mount);
    }

    /**
     * @param port 0 for any free one
     * @param data the file that holds its data across restarts
     */
    public static Foghorn start(int port, Path data) {
        return new Foghorn(port, data);
    }

    public int port() {
        return app.port();
    }

    private void mount(RoutesConfig routes) {
        routes.get("/", context -> context.html(page()));
        routes.get("/hooks/{hook}/about", context -> guarded(context, Gate.NONE, through -> about(context)));
        routes.post(
                "/hooks/{hook}/say",
                context -> guarded(
                        context, body -> List.of(body.path("text").asString("")), through -> say(context, through)));
        routes.get("/control/messages", context -> {
            synchronized (messages) {
                context.contentType("application/json").result(json.writeValueAsBytes(messages));
            }
        });
        routes.delete("/control/data", context -> {
            synchronized (messages) {
                log.clear();
                messages.clear();
            }
            context.status(204);
        });
    }

    private void guarded(Context context, Gate.Lines lines, Gate.Handler handler) {
        gate.pass(
                context,
                () -> HOOK.equals(context.pathParam("hook")) ? Optional.of("hook") : Optional.empty(),
                "problem",
                () -> {},
                lines,
                handler);
    }

    private void about(Context context) {
        context.contentType("application/json")
                .result(json.writeValueAsBytes(json.createObjectNode().put("room", "Harbour office")));
    }

    private void say(Context context, Gate.Through through) {
        JsonNode body = json.readTree(context.bodyAsBytes());
        String text = body.path("text").asString("").strip();
        if (text.isEmpty() || text.length() > 500) {
            throw new Gate.Refusal(422, "a message has 1 to 500 characters");
        }
        synchronized (messages) {
            Message message = new Message(clock.instant(), text);
            log.append(
                    json.createObjectNode().put("at", message.at().toString()).put("text", text));
            messages.add(message);
        }
        through.told().add("taken");
        context.contentType("application/json").result("{}");
    }

    private String page() {
        StringBuilder out = new StringBuilder("<h1>Room: Harbour office</h1>");
        synchronized (messages) {
            messages.stream()
                    .skip(Math.max(0, messages.size() - SHOWN))
                    .forEach(message -> out.append("<p class=said><time>%s</time><br>%s</p>"
                            .formatted(Html.time(message.at()), Html.escape(message.text()))));
        }
        return frame.page("Harbour office", out.toString());
    }

    @Override
    public void close() {
        app.stop();
        log.close();
        desk.close();
    }
}

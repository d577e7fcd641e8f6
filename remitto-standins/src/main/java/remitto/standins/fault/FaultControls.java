package remitto.standins.fault;

import io.javalin.config.RoutesConfig;
import io.javalin.http.BadRequestResponse;
import io.javalin.http.Context;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.standins.DeskClock;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** Faults, limit, clock and log of calls, by API; the same at every stand-in. */
public final class FaultControls {
    private final FaultPanel faults;
    private final CallLimit limit;
    private final CallLog calls;
    private final DeskClock clock;
    private final ObjectMapper json;

    public FaultControls(FaultPanel faults, CallLimit limit, CallLog calls, DeskClock clock, ObjectMapper json) {
        this.faults = faults;
        this.limit = limit;
        this.calls = calls;
        this.clock = clock;
        this.json = json;
    }

    public void mount(RoutesConfig routes) {
        routes.get("/control/faults", context -> reply(context, faults.armed()));
        routes.put("/control/faults", context -> {
            try {
                faults.arm(read(json.readTree(context.bodyAsBytes())));
            } catch (IllegalArgumentException e) {
                throw new BadRequestResponse(String.valueOf(e.getMessage()));
            }
            reply(context, faults.armed());
        });
        routes.put("/control/limit", context -> {
            limit.switchTo(json.readTree(context.bodyAsBytes()).path("on").asBoolean(true));
            context.status(204);
        });
        routes.put("/control/clock", context -> {
            String at = json.readTree(context.bodyAsBytes()).path("at").asString("");
            clock.set(at.isEmpty() ? Optional.empty() : Optional.of(Instant.parse(at)));
            context.status(204);
        });
        routes.get(
                "/control/calls",
                context -> reply(
                        context,
                        calls.since(Optional.ofNullable(context.queryParam("since"))
                                .map(Long::parseLong)
                                .orElse(0L))));
    }

    private static List<FaultPanel.Fault> read(JsonNode body) {
        List<FaultPanel.Fault> wanted = new ArrayList<>();
        body.forEach(node -> wanted.add(new FaultPanel.Fault(
                node.path("fault").asString(""),
                node.path("on").asString(""),
                node.path("share").asDouble(0),
                node.path("next").asInt(0),
                node.path("millis").asInt(0))));
        return wanted;
    }

    private void reply(Context context, Object body) {
        context.contentType("application/json").result(json.writeValueAsBytes(body));
    }
}

package remitto.standins.purser;

import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.standins.DeskClock;
import remitto.standins.fault.CallLimit;
import remitto.standins.fault.FaultPanel;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** The fault panel, by page and by API, and the controls that tests and the demo use. */
final class DeskControls {
    private static final List<String> KINDS =
            List.of("latency", "too-many", "server-error", "drop-before", "drop-after", "not-json", "expired-token");

    private final FaultPanel faults;
    private final CallLimit limit;
    private final CallLog calls;
    private final PurserStore store;
    private final DeskClock clock;
    private final ObjectMapper json;

    DeskControls(
            FaultPanel faults, CallLimit limit, CallLog calls, PurserStore store, DeskClock clock, ObjectMapper json) {
        this.faults = faults;
        this.limit = limit;
        this.calls = calls;
        this.store = store;
        this.clock = clock;
        this.json = json;
    }

    void mount(RoutesConfig routes) {
        routes.get("/faults", context -> context.html(page()));
        routes.post("/faults", this::formArm);
        routes.get("/control/faults", context -> reply(context, faults.armed()));
        routes.put("/control/faults", context -> {
            JsonNode body = json.readTree(context.bodyAsBytes());
            List<FaultPanel.Fault> wanted = new ArrayList<>();
            body.forEach(node -> wanted.add(new FaultPanel.Fault(
                    node.path("fault").asString(""),
                    node.path("on").asString(""),
                    node.path("share").asDouble(0),
                    node.path("next").asInt(0),
                    node.path("millis").asInt(0))));
            faults.arm(wanted);
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
        routes.delete("/control/data", context -> {
            store.clear();
            context.status(204);
        });
    }

    private void reply(Context context, Object body) {
        context.contentType("application/json").result(json.writeValueAsBytes(body));
    }

    private void formArm(Context context) {
        List<FaultPanel.Fault> wanted = new ArrayList<>();
        for (String kind : KINDS) {
            double share = number(context, kind + ".share") / 100;
            int next = (int) number(context, kind + ".next");
            if (share > 0 || next > 0) {
                String on = Optional.ofNullable(context.formParam(kind + ".on")).orElse("");
                wanted.add(new FaultPanel.Fault(kind, on, share, next, (int) number(context, kind + ".millis")));
            }
        }
        faults.arm(wanted);
        limit.switchTo(context.formParam("limit") != null);
        context.html(page());
    }

    private static double number(Context context, String name) {
        try {
            return Double.parseDouble(
                    Optional.ofNullable(context.formParam(name)).orElse("0"));
        } catch (NumberFormatException e) {
            return 0;
        }
    }

    private String page() {
        StringBuilder out = new StringBuilder(
                "<h1>Fault panel</h1><p class=quiet>A share of the calls, or the next few of them, can be made to go wrong. 'On' limits a fault to calls whose path contains it, such as batch or find.</p><form method=post><table><tr><th>Fault</th><th>Share, %</th><th>Next calls</th><th>On</th><th>Milliseconds</th></tr>");
        for (String kind : KINDS) {
            FaultPanel.Fault now = faults.armed().stream()
                    .filter(fault -> fault.fault().equals(kind))
                    .findFirst()
                    .orElse(new FaultPanel.Fault(kind, "", 0, 0, 0));
            out.append("<tr><td>").append(kind).append("</td>");
            out.append(cell(kind, "share", Long.toString(Math.round(now.share() * 100))));
            out.append(cell(kind, "next", Integer.toString(now.next())));
            out.append(cell(kind, "on", now.on()));
            out.append(kind.equals("latency") ? cell(kind, "millis", Integer.toString(now.millis())) : "<td></td>");
            out.append("</tr>");
        }
        out.append("</table><p><label><input type=checkbox name=limit ")
                .append(limit.isOn() ? "checked" : "")
                .append("> Keep to 120 calls in 12 seconds</label></p><button>Set</button></form>");
        return Html.page("Fault panel", out.toString());
    }

    private static String cell(String kind, String name, String value) {
        return "<td><input size=8 name=\"%s.%s\" aria-label=\"%s %s\" value=\"%s\"></td>"
                .formatted(kind, name, kind, name, Html.escape(value));
    }
}

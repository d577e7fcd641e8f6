package remitto.standins.fault;

import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import remitto.standins.page.Frame;
import remitto.standins.page.Html;

/** The fault panel and the latest calls as pages, the same at every stand-in but for the looks. */
final class FaultPage {
    private static final int SHOWN = 200;

    private final FaultPanel faults;
    private final CallLimit limit;
    private final CallLog calls;
    private final Frame frame;

    FaultPage(FaultPanel faults, CallLimit limit, CallLog calls, Frame frame) {
        this.faults = faults;
        this.limit = limit;
        this.calls = calls;
        this.frame = frame;
    }

    void mount(RoutesConfig routes) {
        routes.get("/faults", context -> context.html(panel()));
        routes.post("/faults", this::arm);
        routes.get("/calls", context -> context.html(latestCalls()));
    }

    private void arm(Context context) {
        List<FaultPanel.Fault> wanted = new ArrayList<>();
        for (String kind : faults.kinds()) {
            double share = number(context, kind + ".share") / 100;
            int next = (int) number(context, kind + ".next");
            if (share > 0 || next > 0) {
                String on = Optional.ofNullable(context.formParam(kind + ".on")).orElse("");
                wanted.add(new FaultPanel.Fault(kind, on, share, next, (int) number(context, kind + ".millis")));
            }
        }
        faults.arm(wanted);
        limit.switchTo(context.formParam("limit") != null);
        context.html(panel());
    }

    private static double number(Context context, String name) {
        try {
            return Double.parseDouble(
                    Optional.ofNullable(context.formParam(name)).orElse("0"));
        } catch (NumberFormatException e) {
            return 0;
        }
    }

    private String panel() {
        StringBuilder out = new StringBuilder("""
                <h1>Fault panel</h1><p class=quiet>A share of the calls, or the next few of them, can be made to go wrong.
                'On' limits a fault to calls whose path contains it.</p><form method=post><table>
                <tr><th>Fault</th><th>Share, %</th><th>Next calls</th><th>On</th><th>Milliseconds</th></tr>
                """);
        for (String kind : faults.kinds()) {
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
        return frame.page(
                "Fault panel",
                out.append("</table><p><label><input type=checkbox name=limit ")
                        .append(limit.isOn() ? "checked" : "")
                        .append("> Keep to ")
                        .append(limit.words())
                        .append("</label></p><button>Set</button></form>")
                        .toString());
    }

    private static String cell(String kind, String name, String value) {
        return "<td><input size=8 name=\"%s.%s\" aria-label=\"%s %s\" value=\"%s\"></td>"
                .formatted(kind, name, kind, name, Html.escape(value));
    }

    private String latestCalls() {
        StringBuilder out = new StringBuilder(
                "<h1>Latest calls</h1><table><tr><th>No.</th><th>At</th><th>Client</th><th>Call</th><th>Status</th></tr>");
        List<CallLog.Call> all = new ArrayList<>(calls.since(0));
        Collections.reverse(all);
        all.stream()
                .limit(SHOWN)
                .forEach(call ->
                        out.append("<tr><td class=num>%d</td><td>%s</td><td>%s</td><td>%s %s</td><td>%d</td></tr>"
                                .formatted(
                                        call.number(),
                                        Html.time(call.at()),
                                        Html.escape(call.client()),
                                        call.method(),
                                        Html.escape(call.path()),
                                        call.status())));
        return frame.page("Calls", out.append("</table>").toString());
    }
}

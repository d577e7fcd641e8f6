package remitto.standins.purser;

import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.standins.fault.CallLimit;
import remitto.standins.fault.FaultPanel;
import tools.jackson.databind.ObjectMapper;

/** The fault panel, by page and by API, and the controls that tests and the demo use. */
final class DeskControls {
    private final FaultPanel faults;
    private final PurserStore store;
    private final Catalogue catalogue;
    private final CallLimit limit;
    private final ObjectMapper json;

    DeskControls(FaultPanel faults, CallLimit limit, PurserStore store, Catalogue catalogue, ObjectMapper json) {
        this.faults = faults;
        this.limit = limit;
        this.store = store;
        this.catalogue = catalogue;
        this.json = json;
    }

    void mount(RoutesConfig routes) {
        routes.get("/faults", context -> context.html(page()));
        routes.post("/faults", this::formArm);
        routes.post("/faults/schema", context -> {
            catalogue.edit(new Catalogue.Edit(
                    form(context, "object"), form(context, "field"), form(context, "change"), form(context, "value")));
            context.redirect("/faults");
        });
        routes.put("/control/schema", context -> {
            catalogue.edit(json.readValue(context.bodyAsBytes(), Catalogue.Edit.class));
            context.status(204);
        });
        routes.delete("/control/schema", context -> {
            catalogue.reset();
            context.status(204);
        });
        routes.get("/control/repeats", context -> context.result(Long.toString(store.repeats())));
        routes.delete("/control/data", context -> {
            store.clear();
            catalogue.reset();
            context.status(204);
        });
    }

    private void formArm(Context context) {
        List<FaultPanel.Fault> wanted = new ArrayList<>();
        for (String kind : FaultPanel.KINDS) {
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

    private static String form(Context context, String name) {
        return Optional.ofNullable(context.formParam(name)).orElse("").strip();
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
        for (String kind : FaultPanel.KINDS) {
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
        out.append("""
                <h1>Change a field</h1><p class=quiet>As somebody who runs the CRM might: the catalogue says so at once.</p>
                <form method=post action="/faults/schema" class=line>
                <input name=object aria-label=Object placeholder=object value=contact>
                <input name=field aria-label=Field placeholder=field>
                <select name=change aria-label=Change><option value=remove>remove<option value=shrink>shrink to
                <option value=require>require<option value=relax>relax<option value=lock>lock for clients
                <option value=drop-choice>drop the choice<option value=add-choice>add the choice</select>
                <input name=value aria-label=Value placeholder="length or choice"> <button>Change</button></form>
                """);
        return Html.page("Fault panel", out.toString());
    }

    private static String cell(String kind, String name, String value) {
        return "<td><input size=8 name=\"%s.%s\" aria-label=\"%s %s\" value=\"%s\"></td>"
                .formatted(kind, name, kind, name, Html.escape(value));
    }
}

package remitto.standins.gangway;

import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import remitto.standins.page.Html;
import tools.jackson.databind.node.ObjectNode;

/** Pages where a helper looks at users and companies, adds slots, and sees how a message would read. */
final class GangPages {
    private static final int SHOWN = 100;
    private static final Pattern MERGE = Pattern.compile("\\{\\{\\s*([a-z_]+)\\s*(?:\\|([^}]*))?}}");
    private static final String SAMPLE =
            "Hello {{given|there}},\nyour last crossing was on {{last_crossing|a day long gone}}.";

    private final GangStore store;
    private final GangFrame frame;

    GangPages(GangStore store, GangFrame frame) {
        this.store = store;
        this.frame = frame;
    }

    void mount(RoutesConfig routes) {
        routes.get("/", context -> context.html(list("user", "Users")));
        routes.get("/companies", context -> context.html(list("company", "Companies")));
        routes.post("/slots/{object}", this::addSlot);
        routes.get("/message", context -> context.html(message(context)));
    }

    private String list(String object, String title) {
        List<Slot> slots = store.slots(object);
        Map<Integer, ObjectNode> rows = store.rows(object);
        StringBuilder out = new StringBuilder(
                "<h1>%s <span class=quiet>%,d</span></h1><table><tr><th>No.</th>".formatted(title, rows.size()));
        slots.forEach(
                slot -> out.append("<th>").append(Html.escape(slot.label())).append("</th>"));
        out.append("</tr>");
        rows.entrySet().stream().limit(SHOWN).forEach(entry -> {
            out.append("<tr><td>").append(entry.getKey()).append("</td>");
            slots.forEach(slot -> out.append("<td>")
                    .append(Html.escape(entry.getValue().path(slot.slot()).asString("")))
                    .append("</td>"));
            out.append("</tr>");
        });
        out.append("</table><h1 style=\"margin-top:18px\">Add a slot</h1><form method=post action=\"/slots/")
                .append(object)
                .append("\"><input name=slot aria-label=Slot placeholder=\"name, small letters\"> ")
                .append("<input name=label aria-label=Label placeholder=label> ")
                .append(
                        "<select name=takes aria-label=Takes><option>words<option>number<option>day<option>flag</select> ")
                .append("<button>Add</button></form>");
        return frame.page(title, out.toString());
    }

    private void addSlot(Context context) {
        String object = context.pathParam("object");
        String name = Optional.ofNullable(context.formParam("slot")).orElse("").strip();
        String label =
                Optional.ofNullable(context.formParam("label")).orElse("").strip();
        String takes = Optional.ofNullable(context.formParam("takes")).orElse("words");
        boolean fresh = store.has(object)
                && name.matches("[a-z][a-z_]{0,39}")
                && store.slots(object).stream().noneMatch(slot -> slot.slot().equals(name));
        if (fresh) {
            store.addSlot(object, new Slot(name, label.isEmpty() ? name : label, takes, false, false, 200, true));
        }
        context.redirect(object.equals("company") ? "/companies" : "/");
    }

    private String message(Context context) {
        String text = Optional.ofNullable(context.queryParam("text")).orElse(SAMPLE);
        String handle = Optional.ofNullable(context.queryParam("handle")).orElse("");
        Optional<ObjectNode> user = store.rows("user").values().stream()
                .filter(row ->
                        handle.isEmpty() || row.path("handle").asString("").equals(handle))
                .findFirst();
        return frame.page("Message", """
                <h1>How a message would read</h1><p class=quiet>A slot goes between double braces, with what stands in for it
                where it is empty behind a bar.</p><form><p><textarea name=text aria-label=Message>%s</textarea></p>
                <p><input name=handle aria-label=Handle placeholder="handle of a user" value="%s"> <button>Show</button></p></form>
                <div class=said role=status>%s</div>
                """.formatted(
                        Html.escape(text),
                        Html.escape(handle),
                        Html.escape(user.map(row -> merged(text, row)).orElse("There is no such user."))));
    }

    private static String merged(String text, ObjectNode user) {
        return MERGE.matcher(text).replaceAll(found -> {
            String value = user.path(found.group(1)).asString("");
            String instead = Optional.ofNullable(found.group(2)).orElse("");
            return Matcher.quoteReplacement(value.isEmpty() ? instead : value);
        });
    }
}

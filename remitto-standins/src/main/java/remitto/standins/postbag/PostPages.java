package remitto.standins.postbag;

import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import remitto.standins.page.Html;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ObjectNode;

/** Pages where letters are written: people, what each said of letters, segments by traits, and how a letter reads. */
final class PostPages {
    private static final int SHOWN = 100;
    private static final String SAMPLE = "Dear <<given, else passenger>>,\n"
            + "it is <<days_since_crossing, else a good many>> days since we saw you on board.";

    private final PostStore store;
    private final PostFrame frame;
    private final ObjectMapper json;

    PostPages(PostStore store, PostFrame frame, ObjectMapper json) {
        this.store = store;
        this.frame = frame;
        this.json = json;
    }

    void mount(RoutesConfig routes) {
        routes.get("/", context -> context.html(people()));
        routes.get("/people/{id}", context -> context.html(person(context)));
        routes.post("/people/{id}/standing", this::matchResult);
        routes.post("/traits", this::addTrait);
        routes.get("/lists", context -> context.html(lists()));
        routes.get("/segment", context -> context.html(segment(context)));
        routes.get("/letter", context -> context.html(letter(context)));
    }

    private String people() {
        Map<Integer, ObjectNode> all = store.people();
        return frame.page(
                "People",
                "<h1>People <span class=quiet>%,d</span></h1>".formatted(all.size())
                        + table(all)
                        + "<h1>Add a trait</h1><form method=post action=\"/traits\">"
                        + "<input name=trait aria-label=Trait placeholder=\"name, small letters\"> "
                        + "<input name=called aria-label=Called placeholder=\"as people call it\"> "
                        + "<select name=holds aria-label=Holds><option>text<option>amount<option>date<option>tick<option>rows</select> "
                        + "<button>Add</button></form>");
    }

    private String table(Map<Integer, ObjectNode> people) {
        List<Trait> traits = store.traits();
        StringBuilder out = new StringBuilder("<table><tr><th>No.</th>");
        traits.forEach(
                trait -> out.append("<th>").append(Html.escape(trait.called())).append("</th>"));
        out.append("</tr>");
        people.entrySet().stream().limit(SHOWN).forEach(entry -> {
            out.append("<tr><td><a href=\"/people/%d\">%d</a></td>".formatted(entry.getKey(), entry.getKey()));
            traits.forEach(trait -> out.append("<td>")
                    .append(Html.escape(shown(entry.getValue().path(trait.trait()))))
                    .append("</td>"));
            out.append("</tr>");
        });
        return out.append("</table>").toString();
    }

    private String person(Context context) {
        int id = Integer.parseInt(context.pathParam("id"));
        return store.person(id)
                .map(person -> {
                    StringBuilder out = new StringBuilder("<h1>%s</h1><table>"
                            .formatted(Html.escape(person.path("mail").asString(""))));
                    store.traits()
                            .forEach(trait -> out.append("<tr><th>%s</th><td>%s</td></tr>"
                                    .formatted(
                                            Html.escape(trait.called()),
                                            Html.escape(shown(person.path(trait.trait()))))));
                    return frame.page(
                            "Person",
                            out.append(
                                            "</table><p class=quiet>As this person, at the foot of a letter:</p>"
                                                    + "<form method=post action=\"/people/" + id + "/standing\">"
                                                    + "<button name=standing value=left>No more letters, please</button> "
                                                    + "<button name=standing value=subscribed>Write to me again</button></form>")
                                    .toString());
                })
                .orElseGet(() -> frame.page("Person", "<h1>There is no such person</h1>"));
    }

    private void matchResult(Context context) {
        int id = Integer.parseInt(context.pathParam("id"));
        String said = Optional.ofNullable(context.formParam("standing")).orElse("left");
        if (store.person(id).isPresent()) {
            store.change(id, json.createObjectNode().put(PostStore.STANDING, said));
        }
        context.redirect("/people/" + id);
    }

    private void addTrait(Context context) {
        String name = Optional.ofNullable(context.formParam("trait")).orElse("").strip();
        String called =
                Optional.ofNullable(context.formParam("called")).orElse("").strip();
        String holds = Optional.ofNullable(context.formParam("holds")).orElse("text");
        if (name.matches("[a-z][a-z0-9_]{0,39}")
                && store.traits().stream().noneMatch(trait -> trait.trait().equals(name))) {
            store.addTrait(
                    new Trait(name, called.isEmpty() ? name : called, holds, List.of(), List.of(), false, false, true));
        }
        context.redirect("/");
    }

    private String lists() {
        StringBuilder out = new StringBuilder("<h1>Lists</h1>");
        store.lists()
                .forEach((name, mails) -> out.append("<h2>%s <span class=quiet>%,d</span></h2><p>%s</p>"
                        .formatted(
                                Html.escape(name),
                                mails.size(),
                                Html.escape(mails.stream().limit(SHOWN).collect(Collectors.joining(", "))))));
        return frame.page("Lists", out.toString());
    }

    /** Those who are subscribed and whose trait is over, under or the same as a value. */
    private String segment(Context context) {
        String trait = Optional.ofNullable(context.queryParam("trait")).orElse("");
        String how = Optional.ofNullable(context.queryParam("how")).orElse("over");
        String than = Optional.ofNullable(context.queryParam("than")).orElse("").strip();
        StringBuilder out = new StringBuilder(
                "<h1>A segment</h1><form>Subscribed people whose <select name=trait aria-label=Trait>");
        store.traits()
                .forEach(one -> out.append("<option value=\"%s\"%s>%s</option>"
                        .formatted(
                                one.trait(), one.trait().equals(trait) ? " selected" : "", Html.escape(one.called()))));
        out.append("</select> is <select name=how aria-label=How>");
        List.of("over", "under", "the same as")
                .forEach(one -> out.append("<option%s>%s</option>".formatted(one.equals(how) ? " selected" : "", one)));
        out.append("</select> <input name=than aria-label=Value value=\"%s\"> <button>Show</button></form>"
                .formatted(Html.escape(than)));
        if (!than.isEmpty()) {
            Map<Integer, ObjectNode> met = new TreeMap<>(store.people());
            met.values()
                    .removeIf(person ->
                            !person.path(PostStore.STANDING).asString("").equals("subscribed")
                                    || !meets(person.path(trait).asString(""), how, than));
            out.append("<p role=status>%,d people</p>".formatted(met.size())).append(table(met));
        }
        return frame.page("Segment", out.toString());
    }

    private static boolean meets(String value, String how, String than) {
        if (value.isEmpty()) {
            return false;
        }
        int order;
        try {
            order = new BigDecimal(value).compareTo(new BigDecimal(than));
        } catch (NumberFormatException e) {
            order = value.compareTo(than);
        }
        return how.equals("over") ? order > 0 : how.equals("under") ? order < 0 : order == 0;
    }

    private String letter(Context context) {
        String text = Optional.ofNullable(context.queryParam("text")).orElse(SAMPLE);
        String mail = Optional.ofNullable(context.queryParam("mail")).orElse("");
        Optional<ObjectNode> reader = mail.isEmpty()
                ? store.people().values().stream().findFirst()
                : store.byMail(mail).flatMap(store::person);
        return frame.page("Letter", """
                <h1>How a letter reads</h1><p class=quiet>A trait goes between double angle brackets, with what is written
                where a person has none after "else". Of a trait that holds rows, what stands between
                &lt;&lt;each …&gt;&gt; and &lt;&lt;end&gt;&gt; is written for each.</p><form><p><textarea name=text aria-label=Letter>%s</textarea></p>
                <p><input name=mail aria-label=Mail placeholder="mail of a person" value="%s"> <button>Read it</button></p></form>
                <div class=said role=status>%s</div>
                """.formatted(
                Html.escape(text),
                Html.escape(mail),
                Html.escape(reader.map(person -> Letter.read(text, person)).orElse("There is no such person."))));
    }

    /** A trait as people read it. */
    private static String shown(JsonNode value) {
        return value.isArray() ? value.toString() : value.asString("");
    }
}

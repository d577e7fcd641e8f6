package remitto.standins.purser;

import io.javalin.config.RoutesConfig;
import io.javalin.http.BadRequestResponse;
import io.javalin.http.Context;
import io.javalin.http.NotFoundResponse;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import remitto.standins.fault.Gate;
import remitto.standins.page.Html;
import remitto.standins.purser.Catalogue.CatalogueObject;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.NullNode;

/** Pages where a person at the desk looks at records and edits them. */
final class PurserPages {
    private static final int PAGE = 50;

    private final Catalogue catalogue;
    private final PurserStore store;
    private final Writer writer;
    private final PurserFrame frame;
    private final Clock clock;
    private final ObjectMapper json;

    PurserPages(Catalogue catalogue, PurserStore store, PurserFrame frame, Clock clock, ObjectMapper json) {
        this.catalogue = catalogue;
        this.store = store;
        this.writer = new Writer(store);
        this.frame = frame;
        this.clock = clock;
        this.json = json;
    }

    void mount(RoutesConfig routes) {
        routes.get("/", context -> context.html(home()));
        routes.get("/desk/{object}", context -> context.html(list(context)));
        routes.get("/desk/{object}/{id}", context -> context.html(record(context, List.of())));
        routes.post("/desk/{object}/{id}", this::edit);
        routes.post("/desk/{object}/{id}/delete", this::delete);
        routes.post("/desk/{object}", this::add);
    }

    private String home() {
        StringBuilder rows =
                new StringBuilder("<h1>What Purser holds</h1><table><tr><th>Object</th><th>Records</th></tr>");
        catalogue
                .objects()
                .forEach(object -> rows.append("<tr><td><a href=\"/desk/%s\">%s</a></td><td class=num>%,d</td></tr>"
                        .formatted(object.name(), object.title(), store.count(object.name()))));
        return frame.page("Desk", rows.append("</table>").toString());
    }

    private String list(Context context) {
        CatalogueObject object = object(context);
        String query =
                Optional.ofNullable(context.queryParam("find")).orElse("").strip();
        int page = Optional.ofNullable(context.queryParam("page"))
                .map(Integer::parseInt)
                .orElse(0);
        List<PurserRecord> found = store.all(object.name()).stream()
                .filter(one -> query.isEmpty() || matches(one, query))
                .toList();
        List<CatalogueField> columns = object.fields().stream().limit(6).toList();
        StringBuilder out = new StringBuilder("<h1>%s</h1>".formatted(object.title()));
        out.append(
                "<form class=line><input name=find aria-label=Find value=\"%s\"> <button>Find</button> <span class=quiet>%,d records</span></form>"
                        .formatted(Html.escape(query), found.size()));
        out.append("<table><tr><th>Id</th>");
        columns.forEach(
                field -> out.append("<th>").append(Html.escape(field.title())).append("</th>"));
        out.append("<th>Last written</th></tr>");
        found.stream().skip((long) page * PAGE).limit(PAGE).forEach(one -> {
            out.append("<tr><td><a href=\"/desk/%s/%s\">%s</a></td>".formatted(object.name(), one.id(), one.id()));
            columns.forEach(field -> out.append("<td>")
                    .append(Html.escape(one.text(field.name())))
                    .append("</td>"));
            out.append("<td>").append(Html.time(one.changedAt())).append("</td></tr>");
        });
        out.append("</table>");
        if ((page + 1) * PAGE < found.size()) {
            out.append("<p><a href=\"?find=%s&amp;page=%d\">More</a></p>".formatted(Html.escape(query), page + 1));
        }
        return frame.page(object.title(), out.toString());
    }

    private String record(Context context, List<Problem> problems) {
        CatalogueObject object = object(context);
        PurserRecord one = store.byId(object.name(), context.pathParam("id")).orElseThrow(NotFoundResponse::new);
        StringBuilder out = new StringBuilder("<h1>%s %s</h1><p class=quiet>Revision %d, last written %s</p>"
                .formatted(object.title(), one.id(), one.revision(), Html.time(one.changedAt())));
        problems.forEach(problem -> out.append("<p role=alert><b>")
                .append(Html.escape(problem.message()))
                .append("</b></p>"));
        out.append("<form method=post><table><tr><th>Field</th><th>Value</th><th>Last written</th><th>By</th></tr>");
        for (CatalogueField field : object.fields()) {
            var stamped = Optional.ofNullable(one.fields().get(field.name()));
            out.append("<tr><td>%s <span class=quiet>%s</span></td><td>%s</td><td>%s</td><td>%s</td></tr>"
                    .formatted(
                            Html.escape(field.title()),
                            field.name(),
                            field.readOnly() ? Html.escape(one.text(field.name())) : input(field, one),
                            stamped.map(value -> Html.time(value.at())).orElse(""),
                            stamped.map(value -> Html.escape(value.client())).orElse("")));
        }
        out.append("</table><p><button>Save</button></p></form>");
        out.append("<form method=post action=\"/desk/%s/%s/delete\"><button>Delete this record</button></form>"
                .formatted(object.name(), one.id()));
        return frame.page(object.title() + " " + one.id(), out.toString());
    }

    private static String input(CatalogueField field, PurserRecord one) {
        return "<input name=\"%s\" aria-label=\"%s\" size=34 value=\"%s\">"
                .formatted(field.name(), Html.escape(field.title()), Html.escape(one.text(field.name())));
    }

    private void edit(Context context) {
        CatalogueObject object = object(context);
        String id = context.pathParam("id");
        PurserRecord one = store.byId(object.name(), id).orElseThrow(NotFoundResponse::new);
        Map<String, JsonNode> fields = new LinkedHashMap<>();
        for (CatalogueField field : object.fields()) {
            String typed = context.formParam(field.name());
            if (typed != null && !field.readOnly() && !typed.equals(one.text(field.name()))) {
                fields.put(field.name(), typed.isBlank() ? NullNode.getInstance() : node(field, typed.strip()));
            }
        }
        List<Problem> problems = new ArrayList<>();
        if (!fields.isEmpty()) {
            String who = Optional.ofNullable(context.formParam("desk_user")).orElse("Runa Vik");
            writer.write(
                            object,
                            new Writer.Policy("id", false, true),
                            List.of(new Writer.Wanted(json.getNodeFactory().stringNode(id), fields)),
                            clock.instant(),
                            Gate.Through.atTheDesk("desk:" + who))
                    .forEach(result -> problems.addAll(result.problems()));
        }
        context.html(record(context, problems));
    }

    private void delete(Context context) {
        CatalogueObject object = object(context);
        String who = Optional.ofNullable(context.formParam("desk_user")).orElse("Runa Vik");
        synchronized (store.lock()) {
            store.byId(object.name(), context.pathParam("id")).orElseThrow(NotFoundResponse::new);
            store.apply(
                    object.name(),
                    List.of(new PurserStore.Change("remove", context.pathParam("id"), Map.of())),
                    clock.instant(),
                    "desk:" + who);
        }
        context.redirect("/desk/" + object.name());
    }

    /** A record somebody at the desk adds, by its unique field. */
    private void add(Context context) {
        CatalogueObject object = object(context);
        Map<String, JsonNode> fields = new LinkedHashMap<>();
        for (CatalogueField field : object.fields()) {
            Optional.ofNullable(context.formParam(field.name()))
                    .filter(typed -> !typed.isBlank())
                    .ifPresent(typed -> fields.put(field.name(), node(field, typed.strip())));
        }
        String by = object.fields().stream()
                .filter(field -> field.unique() && fields.containsKey(field.name()))
                .map(CatalogueField::name)
                .findFirst()
                .orElseThrow(() -> new BadRequestResponse("a unique field is needed"));
        String who = Optional.ofNullable(context.formParam("desk_user")).orElse("Runa Vik");
        var result = writer.write(
                        object,
                        new Writer.Policy(by, true, false),
                        List.of(new Writer.Wanted(fields.get(by), fields)),
                        clock.instant(),
                        Gate.Through.atTheDesk("desk:" + who))
                .get(0);
        if (!result.outcome().equals("added")) {
            throw new BadRequestResponse(result.problems().toString());
        }
        context.redirect("/desk/" + object.name() + "/" + result.id());
    }

    private JsonNode node(CatalogueField field, String typed) {
        var nodes = json.getNodeFactory();
        try {
            return switch (field.kind()) {
                case "integer" -> nodes.numberNode(Long.parseLong(typed));
                case "decimal" -> nodes.numberNode(new java.math.BigDecimal(typed));
                case "boolean" -> nodes.booleanNode(typed.equals("true"));
                case "list" -> {
                    var list = nodes.arrayNode();
                    Stream.of(typed.split(",")).map(String::strip).forEach(list::add);
                    yield list;
                }
                default -> nodes.stringNode(typed);
            };
        } catch (NumberFormatException e) {
            return nodes.stringNode(typed);
        }
    }

    private static boolean matches(PurserRecord one, String query) {
        String wanted = query.toLowerCase(Locale.ROOT);
        return one.id().equals(query)
                || one.fields().keySet().stream()
                        .anyMatch(field ->
                                one.text(field).toLowerCase(Locale.ROOT).contains(wanted));
    }

    private CatalogueObject object(Context context) {
        return catalogue.object(context.pathParam("object")).orElseThrow(NotFoundResponse::new);
    }
}

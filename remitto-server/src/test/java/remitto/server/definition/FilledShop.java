package remitto.server.definition;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.Crosswalked;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** An installation with a definition of every kind, made through the API as people make them. */
final class FilledShop {
    private final TestServer server;
    private final TestUser editor;
    private final TestRoute route;

    FilledShop(TestServer server) {
        this.server = server;
        this.editor = server.user("EDITOR");
        this.route = new TestRoute(server, editor);
        long crosswalk = crosswalk();
        long sent = route.add(editor, "Customers to mail", carried(crosswalk));
        long later = route.add(editor, "Later on", TestRoute.after(List.of(sent)));
        people();
        events();
        measure();
        long audience = audience(sent);
        route.save(editor, sent, carried(crosswalk).joined(RouteSpec.Joined.LEAVES));
        audienceDataset(audience);
        profile();
        settled(sent, later);
        editor.put(
                        "/api/audiences/refreshes/schedule",
                        Map.of("schedule", Map.of("kind", "daily", "time", "05:30", "zone", "Europe/Oslo")))
                .ok();
    }

    private void settled(long sent, long later) {
        String book = "/api/destinations/" + route.destination() + "/objects/recipients/book/";
        editor.put(book + "town/owner", Map.of("routeId", sent)).ok();
        editor.put(book + "email/order", Map.of("routeIds", List.of(later, sent)))
                .ok();
    }

    TestUser editor() {
        return editor;
    }

    TestRoute route() {
        return route;
    }

    private static RouteSpec carried(long crosswalk) {
        RouteSpec spec = TestRoute.spec(Optional.empty());
        return spec.rules(List.of(
                spec.rules().get(0),
                FieldRule.of(
                                "town",
                                new Receives.FromColumn("town"),
                                new Crosswalked(crosswalk, Crosswalked.Otherwise.AS_IT_IS, ""))
                        .ifEmpty(IfEmpty.HOLD_RECORD),
                spec.rules().get(2)));
    }

    private long crosswalk() {
        long id = made(
                "/api/crosswalks",
                Map.of(
                        "name",
                        "Towns",
                        "description",
                        "as mail knows them",
                        "entries",
                        List.of(Map.of("from", "Stavern", "to", "3290 Stavern"), Map.of("from", "Ness", "to", "yes"))));
        editor.post("/api/crosswalks/" + id + "/in-service", Map.of("version", 1))
                .ok();
        return id;
    }

    private void people() {
        editor.put(
                        "/api/people/sources/" + route.dataset(),
                        Map.of(
                                "entityType",
                                "PERSON",
                                "columns",
                                List.of(
                                        Map.of(
                                                "column",
                                                "email",
                                                "attribute",
                                                "email",
                                                "kind",
                                                "EMAIL",
                                                "beside",
                                                Map.of("EVIDENCE", "town")),
                                        Map.of(
                                                "column",
                                                "town",
                                                "attribute",
                                                "town",
                                                "kind",
                                                "TOWN",
                                                "beside",
                                                Map.of())),
                                "country",
                                "NO",
                                "countryColumn",
                                ""))
                .ok();
        long run = editor.post("/api/people/runs", Map.of()).ok().get("runId").asLong();
        remitto.server.harness.Awaited.until("people are joined", () -> editor.get("/api/people/runs")
                .ok()
                .valueStream()
                .anyMatch(one -> one.get("id").asLong() == run
                        && !one.path("finishedAt").isMissingNode()
                        && !one.path("finishedAt").isNull()));
    }

    private void events() {
        server.warehouse().run("""
                create table if not exists shop.visits (id int primary key, customer int, at timestamptz, spent numeric);
                insert into shop.visits select i, i, now() - i * interval '1 day', i from generate_series(1, 20) i;
                grant select on shop.visits to shop_reader;
                """);
        long dataset = made(
                "/api/datasets",
                Map.of(
                        "name",
                        "Visits",
                        "description",
                        "",
                        "sourceId",
                        route.source(),
                        "basedOn",
                        0,
                        "definition",
                        Map.of(
                                "query",
                                        Map.of(
                                                "kind",
                                                "table",
                                                "schema",
                                                "shop",
                                                "table",
                                                "visits",
                                                "columns",
                                                List.of("id", "customer", "at", "spent")),
                                "columns",
                                        List.of(
                                                Map.of("name", "id", "type", "INTEGER", "role", "KEY"),
                                                Map.of("name", "customer", "type", "INTEGER", "role", "IDENTIFIER"),
                                                Map.of("name", "at", "type", "TIMESTAMP", "role", "EVENT_TIME"),
                                                Map.of("name", "spent", "type", "DECIMAL", "role", "ATTRIBUTE")))));
        editor.post("/api/datasets/" + dataset + "/in-service", Map.of("version", 1))
                .ok();
        made(
                "/api/events",
                Map.of(
                        "name",
                        "Visits",
                        "datasetId",
                        dataset,
                        "personDatasetId",
                        route.dataset(),
                        "personColumn",
                        "customer",
                        "timeColumn",
                        "at",
                        "columns",
                        List.of("spent"),
                        "overlapDays",
                        2));
    }

    private void measure() {
        made(
                "/api/measures",
                Map.of(
                        "name",
                        "visits_30d",
                        "entityType",
                        "PERSON",
                        "derivation",
                        Map.of(
                                "kind",
                                "events",
                                "zone",
                                "Europe/Oslo",
                                "steps",
                                List.of(1, 5),
                                "measure",
                                Map.of(
                                        "of", Map.of("events", "Visits", "where", List.of()),
                                        "aggregation", Map.of("kind", "count"),
                                        "window", Map.of("kind", "last-days", "days", 30)))));
    }

    private long audience(long sent) {
        long id = editor.post(
                        "/api/audiences",
                        Map.of(
                                "name",
                                "Stavern regulars",
                                "description",
                                "",
                                "entityType",
                                "PERSON",
                                "basedOn",
                                0,
                                "spec",
                                Map.of(
                                        "condition",
                                        Map.of(
                                                "kind",
                                                "all",
                                                "conditions",
                                                List.of(
                                                        Map.of(
                                                                "kind",
                                                                "attribute",
                                                                "attribute",
                                                                "town",
                                                                "test",
                                                                Map.of("kind", "one-of", "values", List.of("Stavern"))),
                                                        Map.of("kind", "dataset", "dataset", route.dataset()),
                                                        Map.of(
                                                                "kind",
                                                                "not",
                                                                "condition",
                                                                Map.of(
                                                                        "kind", "sent", "route", sent, "state",
                                                                        "HELD")))),
                                        "sql",
                                        "",
                                        "zone",
                                        "Europe/Oslo",
                                        "controlGroup",
                                        Map.of("percent", 0, "seed", ""))))
                .ok()
                .get("audience")
                .get("id")
                .asLong();
        editor.post("/api/audiences/" + id + "/in-service", Map.of("version", 1))
                .ok();
        return id;
    }

    private void audienceDataset(long audience) {
        editor.post("/api/audiences/" + audience + "/dataset", Map.of()).ok();
    }

    private void profile() {
        String text = editor.get("/api/profiles/example").ok().get("text").asString();
        editor.post("/api/profiles", Map.of("basedOn", 0, "text", text, "note", ""))
                .ok();
    }

    private long made(String path, Map<String, Object> body) {
        return editor.post(path, body).ok().get("id").asLong();
    }
}

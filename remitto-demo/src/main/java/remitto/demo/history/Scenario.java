package remitto.demo.history;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.OnDrift;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Written;
import remitto.core.guard.Guards;
import remitto.core.guard.Limit;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.E164;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.Trim;
import remitto.core.timetable.Schedule;
import tools.jackson.databind.JsonNode;

/** Datasets and routes of Halvorn Ferries, set up through the API as a person would. */
public final class Scenario {
    public static final String PASSES_SQL = """
            select p.pass_number, p.given_name, p.family_name, p.email, p.phone, p.country, p.birth_date,
                   o.name as home_port, p.status, p.mail_consent,
                   count(t.crossing_no) filter (where t.boarded_at >= current_date - 90) as crossings_90d,
                   max(t.boarded_at)::date as last_crossing, p.updated_at
            from ferry.pass_holders p
            left join ferry.ports o on o.code = p.home_port
            left join ferry.pass_trips t on t.pass_number = p.pass_number
            where p.status <> 'applied'
            group by p.pass_number, p.given_name, p.family_name, p.email, p.phone, p.country, p.birth_date,
                     o.name, p.status, p.mail_consent, p.updated_at
            """;
    private static final String FREIGHT_SQL = """
            select c.vat_number, c.name, c.country, c.city, c.phone, c.credit_limit, c.currency, c.account_manager,
                   coalesce(sum(i.tonnage) filter (where i.issued_on >= current_date - 365), 0) as yearly_tonnage,
                   max(i.issued_on) as last_invoice, c.updated_at
            from ferry.freight_companies c
            left join ferry.invoices i on i.vat_number = c.vat_number
            group by c.vat_number, c.name, c.country, c.city, c.phone, c.credit_limit, c.currency,
                     c.account_manager, c.updated_at
            """;
    private static final String CHURN_SQL = """
            select c.customer_no, c.email, s.score as churn_score, s.scored_at
            from ferry.churn_scores s
            join ferry.customers c on c.customer_no = s.customer_no
            """;

    private final Api api;

    public Scenario(Api api) {
        this.api = api;
    }

    /** Where the made-up company's systems are. */
    public record Places(
            String warehouseHost,
            int warehousePort,
            String database,
            String reader,
            String readerPassword,
            String purser) {}

    /** What was set up. */
    public record Ids(long source, long purser, long passes, long freight, long churn) {}

    /** With nothing expected of its datasets, whatever rows they are given. */
    public Ids setUp(Places places) {
        return setUp(places, false);
    }

    /** @param expecting whether something is expected of its datasets, as of a company's that goes on as usual */
    Ids setUp(Places places, boolean expecting) {
        long source = id(api.post(
                "/api/sources",
                Map.of(
                        "name", "Halvorn warehouse",
                        "address",
                                Map.of(
                                        "host", places.warehouseHost(),
                                        "port", places.warehousePort(),
                                        "database", places.database(),
                                        "user", places.reader(),
                                        "tls", "OFF"),
                        "password", places.readerPassword())));
        long purser = id(api.post(
                "/api/destinations",
                Map.of(
                        "name",
                        "Purser CRM",
                        "profile",
                        "purser-crm",
                        "limitsOff",
                        false,
                        "settings",
                        Map.of(
                                "base_address", places.purser(),
                                "client_id", "remitto-demo",
                                "client_secret", "gangplank-7731"))));
        long passes = dataset(
                source,
                "Pass holders",
                "Holders of a commuter pass, with their crossings of the last 90 days",
                PASSES_SQL,
                Map.of(
                        "pass_number",
                        "KEY",
                        "email",
                        "IDENTIFIER",
                        "phone",
                        "IDENTIFIER",
                        "birth_date",
                        "SENSITIVE",
                        "mail_consent",
                        "CONSENT",
                        "updated_at",
                        "UPDATED_AT"),
                expecting
                        ? List.of(
                                expected("family_name", Map.of("kind", "not-empty"), "HOLD_ROWS"),
                                expected(
                                        "status",
                                        Map.of("kind", "one-of", "values", List.of("active", "cancelled", "expired")),
                                        "TELL"),
                                expected("phone", Map.of("kind", "not-empty"), "TELL"),
                                usualSize())
                        : List.of());
        long freight = dataset(
                source,
                "Freight companies",
                "Companies with a freight account, with tonnage of the last year",
                FREIGHT_SQL,
                Map.of("vat_number", "KEY", "updated_at", "UPDATED_AT"),
                expecting
                        ? List.of(
                                expected(
                                        "currency",
                                        Map.of("kind", "one-of", "values", List.of("DKK", "EUR", "NOK", "SEK")),
                                        "HOLD_ROWS"),
                                expected("credit_limit", Map.of("kind", "within", "least", "0"), "TELL"))
                        : List.of());
        long churn = dataset(
                source,
                "Churn scores",
                "Latest churn score of each ticketing customer",
                CHURN_SQL,
                Map.of("customer_no", "KEY", "email", "IDENTIFIER", "scored_at", "UPDATED_AT"),
                expecting
                        ? List.of(
                                expected(
                                        "churn_score",
                                        Map.of("kind", "within", "least", "0", "most", "100"),
                                        "HOLD_ROWS"),
                                Map.of("demand", Map.of("kind", "fresh", "hours", 48), "response", "TELL"),
                                usualSize())
                        : List.of());
        return new Ids(
                source,
                purser,
                route("Commuter passes", passes, purser, "contact", commuterPasses()),
                route("Freight accounts", freight, purser, "company", freightAccounts()),
                route("Churn score", churn, purser, "contact", churnScore()));
    }

    private static Map<String, Object> expected(String column, Map<String, Object> demand, String response) {
        return Map.of("column", column, "demand", demand, "response", response);
    }

    private static Map<String, Object> usualSize() {
        return Map.of("demand", Map.of("kind", "row-count", "changePercent", 30), "response", "STOP_ROUTES");
    }

    public long dataset(long source, String name, String description, String sql, Map<String, String> roles) {
        return dataset(source, name, description, sql, roles, List.of());
    }

    private long dataset(
            long source,
            String name,
            String description,
            String sql,
            Map<String, String> roles,
            List<Map<String, Object>> expectations) {
        Map<String, Object> query = Map.of("kind", "sql", "text", sql);
        JsonNode preview = api.post("/api/datasets/preview", Map.of("sourceId", source, "query", query));
        List<Map<String, String>> columns = new ArrayList<>();
        preview.get("preview").get("columns").forEach(column -> {
            String column1 = column.get("name").asString();
            columns.add(Map.of(
                    "name", column1,
                    "type", column.get("type").asString(),
                    "role", roles.getOrDefault(column1, "ATTRIBUTE")));
        });
        long id = id(api.post(
                "/api/datasets",
                Map.of(
                        "name", name,
                        "description", description,
                        "sourceId", source,
                        "basedOn", 0,
                        "definition", Map.of("query", query, "columns", columns, "expectations", expectations))));
        api.post("/api/datasets/" + id + "/in-service", Map.of("version", 1));
        api.post("/api/datasets/" + id + "/freshness", Map.of());
        return id;
    }

    public long route(String name, long dataset, long destination, String object, RouteSpec spec) {
        long id = id(api.post(
                "/api/routes",
                Map.of(
                        "name", name,
                        "ends", Map.of("datasetId", dataset, "destinationId", destination, "object", object),
                        "spec", spec)));
        api.post("/api/routes/" + id + "/in-service", Map.of("version", 1));
        return id;
    }

    /** The rules of the commuter passes. */
    public static RouteSpec commuterPasses() {
        Shaper trim = new Trim();
        return RouteSpec.of(
                        Mode.ADD_OR_UPDATE,
                        List.of("external_ref", "email"),
                        List.of(
                                from("external_ref", "pass_number", trim).ifEmpty(IfEmpty.HOLD_RECORD),
                                from("email", "email", trim, new LowerCase()),
                                from("given_name", "given_name", trim),
                                from("family_name", "family_name", trim).ifEmpty(IfEmpty.HOLD_RECORD),
                                from("mobile", "phone", new E164("NO", "country"))
                                        .onDrift(OnDrift.KEEP_THEIRS),
                                from("country", "country", trim),
                                from("home_port", "home_port", trim).ifEmpty(IfEmpty.CLEAR),
                                from("pass_number", "pass_number", trim),
                                FieldRule.of(
                                        "pass_status",
                                        new Receives.Computed(
                                                "status == \"active\" ? \"current\" : (status == \"expired\" ? \"lapsed\" : \"former\")")),
                                from("crossings_90d", "crossings_90d").orDefault("0"),
                                from("last_crossing", "last_crossing"),
                                FieldRule.of("source_system", new Receives.Fixed("pass-office"))
                                        .written(Written.WHEN_CREATING)),
                        new Basis.Consent("mail about your pass", "mail_consent"),
                        Guards.defaults(),
                        new Schedule.Daily(java.time.LocalTime.of(6, 0), "Europe/Oslo"))
                .leavers(new Leavers.SetFields(List.of(new Leavers.FieldText("pass_status", "former"))))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    private static RouteSpec freightAccounts() {
        Shaper trim = new Trim();
        return RouteSpec.of(
                        Mode.ADD_OR_UPDATE,
                        List.of("vat_number"),
                        List.of(
                                from("vat_number", "vat_number", trim).ifEmpty(IfEmpty.HOLD_RECORD),
                                from("name", "name", trim),
                                from("country", "country", trim),
                                from("city", "city", trim),
                                from("phone", "phone", new E164("NO", "country")),
                                from("credit_limit", "credit_limit"),
                                from("currency", "currency"),
                                from("account_manager", "account_manager", trim).written(Written.ONLY_IF_EMPTY_THERE),
                                from("yearly_tonnage", "yearly_tonnage").orDefault("0"),
                                from("last_invoice", "last_invoice"),
                                FieldRule.of(
                                        "freight_class",
                                        new Receives.Computed(
                                                "yearly_tonnage >= 900 ? \"key\" : (yearly_tonnage >= 200 ? \"regular\" : \"small\")"))),
                        new Basis.NotStated(),
                        Guards.defaults().held(Limit.percent(5)),
                        new Schedule.Daily(java.time.LocalTime.of(7, 0), "Europe/Oslo"))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    private static RouteSpec churnScore() {
        return RouteSpec.of(
                        Mode.UPDATE_ONLY,
                        List.of("email"),
                        List.of(
                                from("email", "email", new Trim(), new LowerCase())
                                        .written(Written.WHEN_CREATING),
                                from("churn_score", "churn_score")),
                        new Basis.Stated("Our contract with the passenger: service on the lines they use"),
                        Guards.defaults(),
                        new Schedule.Weekly(
                                java.util.Set.of(java.time.DayOfWeek.MONDAY, java.time.DayOfWeek.THURSDAY),
                                java.time.LocalTime.of(8, 30),
                                "Europe/Oslo"))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    static FieldRule from(String field, String column, Shaper... shapers) {
        return FieldRule.of(field, new Receives.FromColumn(column), shapers);
    }

    static long id(JsonNode created) {
        return created.get("id").asLong();
    }
}

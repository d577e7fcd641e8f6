package remitto.demo.history;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.timetable.Schedule;
import remitto.demo.Databases;
import tools.jackson.databind.JsonNode;

/** The datasets of Halvorn Ferries that describe people and companies, tied as is suggested, and their joining. */
public final class PeopleSetUp {
    private static final String TICKETS =
            "select c.customer_no, c.given_name, c.family_name, c.email, c.phone, c.country, c.birth_date,"
                    + " s.score as churn_score, c.updated_at from ferry.customers c"
                    + " left join ferry.churn_scores s on s.customer_no = c.customer_no";
    private static final String PASSES =
            "select p.pass_number, p.given_name, p.family_name, p.email, p.phone, p.country, p.birth_date,"
                    + " o.name as home_port, p.status as pass_status, p.mail_consent as newsletter_consent, p.updated_at"
                    + " from ferry.pass_holders p left join ferry.ports o on o.code = p.home_port";
    private static final String WIFI =
            "select signup_no, full_name, email, phone, signed_up_at as updated_at from ferry.wifi_signups";
    private static final String NEWSLETTER =
            "select n.signup_no, n.full_name, n.email, c.answer as newsletter_consent, c.given_at as newsletter_consent_at,"
                    + " n.signup_no as newsletter_consent_evidence, n.signed_up_at as updated_at"
                    + " from ferry.newsletter_signups n left join lateral (select answer, given_at from ferry.consents c"
                    + " where c.email = n.email and c.purpose = 'newsletter' order by given_at desc limit 1) c on true";
    private static final String CONTACTS =
            "select contact_no, full_name, email, phone, vat_number from ferry.freight_contacts";
    private static final String DESK = "select vat_number, name, vat_number as registration, city, phone, country,"
            + " updated_at from ferry.freight_companies";
    private static final String PORTAL = "select account_no, company_name, website, vat_number as registration, city,"
            + " phone, registered_at as updated_at from ferry.cargo_accounts";

    /** What is kept of people besides what tells them apart. */
    private static final Map<String, String> MORE =
            Map.of("home_port", "TEXT", "pass_status", "TEXT", "churn_score", "NUMBER");

    private final Api editor;
    private final Scenario scenario;
    private final Map<String, Long> companies = new LinkedHashMap<>();

    public PeopleSetUp(Api editor, Scenario scenario) {
        this.editor = editor;
        this.scenario = scenario;
    }

    /** The ids of the datasets that describe people, by the name the truth has for them. */
    public Map<String, Long> setUp(long source) {
        companies(source);
        Map<String, Long> datasets = new LinkedHashMap<>();
        datasets.put(
                "pass",
                dataset(source, "Pass office people", "Everybody who holds or held a pass", PASSES, "pass_number"));
        datasets.put(
                "ticketing",
                dataset(source, "Ticketing people", "Everybody who bought a ticket", TICKETS, "customer_no"));
        datasets.put("wifi", dataset(source, "Wi-Fi sign-ups", "Who signed up for Wi-Fi on board", WIFI, "signup_no"));
        datasets.put(
                "newsletter",
                dataset(source, "Newsletter sign-ups", "Who signed up for the newsletter", NEWSLETTER, "signup_no"));
        datasets.put(
                "freight",
                dataset(source, "Company contacts", "Whom to call at a freight company", CONTACTS, "contact_no"));
        datasets.values().forEach(id -> tie(id, "PERSON"));
        return datasets;
    }

    /** The ids of the datasets that describe companies, by the name the truth has for them; those of an earlier call. */
    public Map<String, Long> companies(long source) {
        if (companies.isEmpty()) {
            companies.put(
                    "desk",
                    dataset(source, "Freight desk companies", "Companies with a freight account", DESK, "vat_number"));
            companies.put(
                    "portal",
                    dataset(source, "Cargo portal accounts", "Accounts opened at the portal", PORTAL, "account_no"));
            companies.values().forEach(id -> tie(id, "COMPANY"));
        }
        return companies;
    }

    private void tie(long id, String about) {
        JsonNode tied = editor.get("/api/people/sources/" + id + "/suggestion?entityType=" + about);
        List<Object> columns = new ArrayList<>();
        tied.get("columns").forEach(columns::add);
        editor.get("/api/datasets/" + id).get("definition").get("columns").forEach(column -> {
            String name = column.get("name").asString();
            if (MORE.containsKey(name)) {
                columns.add(Map.of("column", name, "attribute", name, "kind", MORE.get(name), "beside", Map.of()));
            }
        });
        Map<String, Object> request = new HashMap<>(Map.of(
                "entityType", about, "columns", columns, "country", "NO", "countryColumn", tied.get("countryColumn")));
        boolean contact =
                editor.get("/api/datasets/" + id).get("name").asString().equals("Company contacts");
        if (contact) {
            request.put("belongsTo", Map.of("datasetId", companies.get("desk"), "column", "vat_number"));
        }
        editor.put("/api/people/sources/" + id, request);
    }

    private long dataset(long source, String name, String description, String sql, String key) {
        return scenario.dataset(
                source,
                name,
                description,
                sql,
                Map.of(
                        key,
                        "KEY",
                        "birth_date",
                        "SENSITIVE",
                        "newsletter_consent",
                        "CONSENT",
                        "registration",
                        "IDENTIFIER",
                        "updated_at",
                        "UPDATED_AT"));
    }

    /** A dataset of one row a person, over the people who were joined. */
    public long peopleDataset() {
        long source = editor.get("/api/people/overview").get("source").asLong();
        return scenario.dataset(
                source,
                "People",
                "One row a person, with the values that are kept and the ids of all linked records",
                "select * from people.person",
                Map.of(
                        "person_id",
                        "KEY",
                        "email",
                        "IDENTIFIER",
                        "phone",
                        "IDENTIFIER",
                        "birth_date",
                        "SENSITIVE",
                        "newsletter_consent",
                        "CONSENT",
                        "changed_at",
                        "UPDATED_AT"));
    }

    /**
     * Writes which record is whose back to a table of the warehouse, once.
     *
     * @return the run
     */
    public JsonNode writeLinksBack(Scenario.Places places, LetIn letIn) {
        long source = editor.get("/api/people/overview").get("source").asLong();
        long dataset = scenario.dataset(
                source,
                "Which record is whose",
                "One row a record of any dataset that describes people, with its person",
                "select * from people.record where about = 'person'",
                Map.of("record", "KEY"));
        long destination = editor.post(
                        "/api/destinations",
                        Map.of(
                                "name",
                                "Warehouse, marketing",
                                "profile",
                                "database-table",
                                "limitsOff",
                                false,
                                "settings",
                                Map.of(
                                        "base_address",
                                        "postgresql://%s:%d/%s?sslmode=disable"
                                                .formatted(
                                                        places.warehouseHost(),
                                                        places.warehousePort(),
                                                        places.database()),
                                        "user",
                                        Databases.WRITER,
                                        "password",
                                        Databases.WRITER_PASSWORD,
                                        "schema",
                                        "marketing")))
                .get("id")
                .asLong();
        letIn.all();
        RouteSpec spec = RouteSpec.of(
                        Mode.KEEP_EQUAL,
                        List.of("record"),
                        List.of(
                                Scenario.from("record", "record").ifEmpty(IfEmpty.HOLD_RECORD),
                                Scenario.from("person_id", "person_id"),
                                Scenario.from("dataset", "dataset"),
                                Scenario.from("key", "key")),
                        new Basis.NotStated(),
                        Guards.defaults(),
                        new Schedule.ByHand("Europe/Oslo"))
                .leavers(new Leavers.Delete())
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
        long route = scenario.route("Who is whose, back to the warehouse", dataset, destination, "person_links", spec);
        JsonNode prepared = editor.await(editor.post("/api/routes/" + route + "/runs", Map.of())
                .get("runId")
                .asLong());
        editor.post("/api/runs/" + prepared.get("id").asLong() + "/send", Map.of());
        return editor.await(prepared.get("id").asLong());
    }

    /** Joins the records of people and waits until that is done. */
    public JsonNode join() {
        return join("PERSON");
    }

    /** Joins the records of people or of companies, and waits until that is done. */
    public JsonNode join(String about) {
        editor.post("/api/people/runs?entityType=" + about, Map.of());
        return editor.until("/api/people/overview?entityType=" + about, seen -> seen.get("latest")
                .has("finishedAt"));
    }
}

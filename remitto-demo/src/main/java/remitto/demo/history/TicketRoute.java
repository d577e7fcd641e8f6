package remitto.demo.history;

import java.text.Normalizer;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.DatasetLookUp.Comparison;
import remitto.core.fieldrule.DatasetLookUp.Condition;
import remitto.core.fieldrule.DatasetLookUp.Hop;
import remitto.core.fieldrule.DatasetLookUp.Pick;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.Newer;
import remitto.core.fieldrule.OnDrift;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Receives.IfMany;
import remitto.core.fieldrule.Timing;
import remitto.core.fieldrule.Written;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun.AlreadyThere;
import remitto.core.route.FirstRun.OlderRows;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.Crosswalked;
import remitto.core.shaper.E164;
import remitto.core.shaper.IsoCountry;
import remitto.core.shaper.KeyedHash;
import remitto.core.shaper.Mask;
import remitto.core.shaper.NormaliseEmail;
import remitto.core.shaper.Rounded;
import remitto.core.shaper.Sha256;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.Spaces;
import remitto.core.shaper.SpellTime;
import remitto.core.shaper.TitleCase;
import remitto.core.shaper.ToDate;
import remitto.core.shaper.Transliterate;
import remitto.core.shaper.Trim;
import remitto.core.shaper.UnicodeForm;
import remitto.core.shaper.UpperCase;
import remitto.core.shaper.YesNo;
import remitto.core.timetable.Schedule;
import remitto.demo.warehouse.Halvorn;
import tools.jackson.databind.JsonNode;

/** The people who buy tickets, with a rule of nearly every kind, and what those rules reach for. */
final class TicketRoute {
    private static final String OSLO = "Europe/Oslo";
    private static final String CUSTOMERS_SQL = """
            select customer_no, given_name, family_name, email, phone, country, birth_date, created_at, updated_at,
                   case when hashtext(customer_no) % 9 = 0 then 'no' when hashtext(customer_no) % 7 = 0 then null
                     else 'yes' end as profiling
            from ferry.customers where email is not null
            """;
    private static final String BOOKINGS_SQL =
            "select booking_no, customer_no, crossing_no, booked_at, amount, currency from ferry.bookings";
    private static final String CROSSINGS_SQL =
            "select crossing_no, line, from_port, to_port, departs_at from ferry.crossings";
    private static final String PORTS_SQL = "select code, name, country, zone from ferry.ports";
    private static final String CONSENTS_SQL =
            "select distinct on (email, purpose) email || '/' || purpose as consent_no, email, purpose, answer, given_at"
                    + " from ferry.consents order by email, purpose, given_at desc";

    private final Api editor;
    private final Api admin;
    private final Scenario scenario;

    TicketRoute(Api editor, Api admin, Scenario scenario) {
        this.editor = editor;
        this.admin = admin;
        this.scenario = scenario;
    }

    private record Around(
            long bookings, long crossings, long ports, long consents, long churn, long lines, long languages) {}

    long setUp(Scenario.Ids ids) {
        long customers = scenario.dataset(
                ids.source(),
                "Ticket customers",
                "Everybody who bought a ticket and left an e-mail address",
                CUSTOMERS_SQL,
                Map.of(
                        "customer_no", "KEY",
                        "email", "IDENTIFIER",
                        "phone", "IDENTIFIER",
                        "birth_date", "SENSITIVE",
                        "profiling", "CONSENT",
                        "updated_at", "UPDATED_AT"));
        Around around = new Around(
                scenario.dataset(
                        ids.source(),
                        "Bookings",
                        "Every booking of a crossing",
                        BOOKINGS_SQL,
                        Map.of("booking_no", "KEY", "customer_no", "IDENTIFIER", "booked_at", "EVENT_TIME")),
                scenario.dataset(
                        ids.source(),
                        "Crossings",
                        "Every crossing with its line and ports",
                        CROSSINGS_SQL,
                        Map.of("crossing_no", "KEY")),
                scenario.dataset(ids.source(), "Ports", "The ports of all lines", PORTS_SQL, Map.of("code", "KEY")),
                scenario.dataset(
                        ids.source(),
                        "Newest consents",
                        "What each person last said, per purpose",
                        CONSENTS_SQL,
                        Map.of("consent_no", "KEY", "email", "IDENTIFIER", "answer", "CONSENT")),
                churnDataset(),
                lines(),
                languages());
        admin.post("/api/hash-keys", Map.of("name", "loyalty"));
        return scenario.route("Ticket customers", customers, ids.purser(), "contact", spec(around));
    }

    private long churnDataset() {
        for (JsonNode dataset : editor.get("/api/datasets")) {
            if (dataset.get("name").asString().equals("Churn scores")) {
                return dataset.get("id").asLong();
            }
        }
        throw new IllegalStateException("no churn scores");
    }

    /** What lines are called where people read it. The newest lines are not in it yet. */
    private long lines() {
        List<Map<String, String>> entries = new ArrayList<>();
        List<Map.Entry<String, String>> ports = List.copyOf(Halvorn.portNames().entrySet());
        for (var from : ports.subList(0, ports.size() - 1)) {
            for (var to : ports) {
                if (!from.equals(to)) {
                    entries.add(Map.of(
                            "from", from.getKey() + "-" + to.getKey(), "to", from.getValue() + " to " + to.getValue()));
                }
            }
        }
        return crosswalk("Line names", "Lines as timetables print them", entries);
    }

    private long languages() {
        List<Map<String, String>> entries = new ArrayList<>();
        Map.of(
                        "NO", "nb", "SE", "sv", "DK", "da", "FI", "fi", "DE", "de", "GB", "en", "NL", "nl", "PL", "pl",
                        "GR", "el")
                .forEach((country, language) -> entries.add(Map.of("from", country, "to", language)));
        return crosswalk("Spoken there", "The language we write in, by country", entries);
    }

    private long crosswalk(String name, String description, List<Map<String, String>> entries) {
        long id = Scenario.id(
                editor.post("/api/crosswalks", Map.of("name", name, "description", description, "entries", entries)));
        editor.post("/api/crosswalks/" + id + "/in-service", Map.of("version", 1));
        return id;
    }

    private static RouteSpec spec(Around around) {
        List<FieldRule> rules = new ArrayList<>();
        rules.addAll(who());
        rules.addAll(travels(around));
        rules.addAll(marks(around));
        return RouteSpec.of(
                        Mode.ADD_OR_UPDATE,
                        List.of("email"),
                        rules,
                        new Basis.Stated("Our contract with the passenger: the crossings they booked"),
                        Guards.defaults(),
                        new Schedule.Daily(LocalTime.of(6, 0), OSLO))
                .firstRun(AlreadyThere.ADOPT, OlderRows.SEND);
    }

    private static List<FieldRule> who() {
        Shaper nfc = new UnicodeForm(Normalizer.Form.NFC);
        return List.of(
                Scenario.from("email", "email", new NormaliseEmail(false)).ifEmpty(IfEmpty.HOLD_RECORD),
                Scenario.from("given_name", "given_name", nfc, new Spaces(), new TitleCase())
                        .ifNewer(new Newer("updated_at", 60)),
                Scenario.from("family_name", "family_name", nfc, new Spaces(), new TitleCase())
                        .ifNewer(new Newer("updated_at", 60))
                        .ifBlank(IfEmpty.HOLD_RECORD),
                FieldRule.of(
                        "latin_name",
                        new Receives.Computed("given_name + \" \" + family_name"),
                        new Transliterate(true),
                        new TitleCase()),
                Scenario.from("mobile", "phone", new E164("NO", "country")).onDrift(OnDrift.HOLD_VALUE),
                Scenario.from("phone_hint", "phone", new E164("NO", "country"), new Mask(3))
                        .ifUnusable(IfUnusable.LEAVE),
                Scenario.from("country", "country", new IsoCountry(IsoCountry.Form.ALPHA2)),
                Scenario.from("country_name", "country", new IsoCountry(IsoCountry.Form.ENGLISH_NAME)),
                FieldRule.of("currency", new Receives.Fixed("NOK")).written(Written.ONLY_IF_EMPTY_THERE),
                Scenario.from("customer_number", "customer_no", new Trim(), new UpperCase()));
    }

    private static List<FieldRule> travels(Around around) {
        Optional<Pick> newest = Optional.of(new Pick("booked_at", true, 0));
        Optional<Pick> oneYear = Optional.of(new Pick("departs_at", true, 365));
        List<Hop> toCrossing = List.of(new Hop("crossing_no", around.crossings(), "crossing_no"));
        List<Hop> toPort = List.of(
                new Hop("crossing_no", around.crossings(), "crossing_no"), new Hop("to_port", around.ports(), "code"));
        return List.of(
                found(
                                "last_booking",
                                "customer_no",
                                IfMany.FIRST,
                                way(around.bookings(), List.of(), "booked_at", newest),
                                new ToDate("", OSLO))
                        .timing(daily()),
                found(
                        "last_amount",
                        "customer_no",
                        IfMany.FIRST,
                        way(around.bookings(), List.of(), "amount", newest),
                        new Rounded(0)),
                found(
                                "last_line",
                                "customer_no",
                                IfMany.FIRST,
                                way(
                                        around.bookings(),
                                        toCrossing,
                                        "line",
                                        Optional.of(new Pick("departs_at", true, 0))),
                                new Crosswalked(around.lines(), Crosswalked.Otherwise.UNUSABLE, ""))
                        .ifMissing(IfEmpty.CLEAR),
                found(
                        "last_port",
                        "customer_no",
                        IfMany.FIRST,
                        way(around.bookings(), toPort, "name", Optional.of(new Pick("name", false, 0)))),
                found("interests", "customer_no", IfMany.LIST, way(around.bookings(), toCrossing, "line", oneYear)),
                found(
                                "churn_score",
                                "customer_no",
                                IfMany.UNUSABLE,
                                way(around.churn(), List.of(), "churn_score", Optional.empty()))
                        .consent(new remitto.core.fieldrule.FieldConsent("profiling", "profiling")),
                FieldRule.of(
                        "newsletter",
                        new Receives.FromDataset(
                                new DatasetLookUp(
                                        around.consents(),
                                        "email",
                                        List.of(),
                                        "answer",
                                        List.of(new Condition("purpose", Comparison.IS, "newsletter")),
                                        Optional.empty()),
                                "email",
                                IfMany.UNUSABLE),
                        new YesNo(List.of("yes"), List.of("no"))));
    }

    private static Timing daily() {
        return new Timing(24, Optional.empty(), Optional.empty(), Optional.empty(), OSLO, "");
    }

    private static List<FieldRule> marks(Around around) {
        return List.of(
                FieldRule.of(
                        "tier",
                        new Receives.Computed(
                                "days_between(created_at, updated_at) > 500 ? \"old friend\" : (days_between(created_at,"
                                        + " updated_at) > 200 ? \"known\" : \"new\")")),
                Scenario.from("since", "created_at", new ToDate("", OSLO)).written(Written.WHEN_CREATING),
                Scenario.from("since_words", "created_at", new SpellTime("MMMM uuuu", OSLO, "en")),
                Scenario.from("email_key", "email", new NormaliseEmail(true), new Sha256()),
                Scenario.from("loyalty_key", "birth_date", new KeyedHash("loyalty")),
                Scenario.from(
                                "language",
                                "country",
                                new UpperCase(),
                                new Crosswalked(around.languages(), Crosswalked.Otherwise.DEFAULT, "en"))
                        .written(Written.WHEN_CREATING),
                FieldRule.of("sales_owner", new Receives.Fixed("Harbour desk")).written(Written.DESTINATION_DECIDES),
                FieldRule.of("source_system", new Receives.Fixed("ticketing")).written(Written.WHEN_CREATING));
    }

    private static DatasetLookUp way(long dataset, List<Hop> hops, String give, Optional<Pick> pick) {
        return new DatasetLookUp(dataset, "customer_no", hops, give, List.of(), pick);
    }

    private static FieldRule found(String field, String column, IfMany ifMany, DatasetLookUp way, Shaper... shapers) {
        return FieldRule.of(field, new Receives.FromDataset(way, column, ifMany), shapers);
    }
}

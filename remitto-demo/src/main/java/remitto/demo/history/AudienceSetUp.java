package remitto.demo.history;

import java.math.BigDecimal;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.audience.AudienceSpec;
import remitto.core.audience.Condition;
import remitto.core.audience.ControlGroup;
import remitto.core.audience.Derivation;
import remitto.core.audience.EventsOf;
import remitto.core.audience.Measure;
import remitto.core.audience.Measure.Aggregation;
import remitto.core.audience.ValueTest;
import remitto.core.audience.Window;
import remitto.core.dataset.ColumnType;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Written;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.NormaliseEmail;
import remitto.core.shaper.Sha256;
import remitto.core.timetable.Schedule;
import tools.jackson.databind.JsonNode;

/** Events, measures and audiences of Halvorn Ferries, set up through the API as a person would. */
public final class AudienceSetUp {
    private static final int HTTP_CONFLICT = 409;
    private static final String ZONE = "Europe/Oslo";
    private static final String TRIPS = """
            select t.pass_number || '/' || t.crossing_no || '/' || extract(epoch from t.boarded_at)::bigint as trip,
                   t.pass_number, c.line, c.from_port, c.to_port, t.boarded_at
            from ferry.pass_trips t join ferry.crossings c on c.crossing_no = t.crossing_no
            """;
    private static final String BOOKINGS = """
            select b.booking_no, b.customer_no, c.line, b.amount, b.currency, b.booked_at, c.departs_at
            from ferry.bookings b join ferry.crossings c on c.crossing_no = b.crossing_no
            """;

    private final Api editor;
    private final Scenario scenario;

    public AudienceSetUp(Api editor, Scenario scenario) {
        this.editor = editor;
        this.scenario = scenario;
    }

    /** What was set up, by name. */
    public record Ids(Map<String, Long> audiences) {}

    /** @param people the datasets that describe people, by the name the truth has for them */
    public Ids setUp(long source, Map<String, Long> people) {
        long trips = scenario.dataset(
                source, "Pass crossings", "Every boarding with a commuter pass", TRIPS, Map.of("trip", "KEY"));
        long bookings = scenario.dataset(
                source,
                "Ticket bookings",
                "Every booking of a ticketing customer",
                BOOKINGS,
                Map.of("booking_no", "KEY"));
        events(
                "Crossings",
                trips,
                people.get("pass"),
                "pass_number",
                "boarded_at",
                List.of("line", "from_port", "to_port"));
        events(
                "Bookings",
                bookings,
                people.get("ticketing"),
                "customer_no",
                "booked_at",
                List.of("line", "amount", "currency", "departs_at"));
        refresh();
        measure("crossings_90d", over(of("Crossings"), new Window.LastDays(90), new Aggregation.CountOf()));
        measure("last_crossing", over(of("Crossings"), new Window.Ever(), new Aggregation.LastDay()));
        measure(
                "days_since_crossing",
                over(of("Crossings"), new Window.Ever(), new Aggregation.DaysSince(), 7, 30, 60, 120));
        measure(
                "spent_12m",
                over(
                        new EventsOf(
                                "Bookings",
                                List.of(new EventsOf.EventTest("currency", new ValueTest.OneOf(List.of("NOK"))))),
                        new Window.LastDays(365),
                        new Aggregation.SumOf("amount")));
        measure("bookings_12m", over(of("Bookings"), new Window.LastDays(365), new Aggregation.CountOf()));
        measure("days_since_booking", over(of("Bookings"), new Window.Ever(), new Aggregation.DaysSince()));
        measure("recency", new Derivation.Score("days_since_booking", 5, false));
        measure("frequency", new Derivation.Score("bookings_12m", 5, true));
        measure("monetary", new Derivation.Score("spent_12m", 5, true));
        measure(
                "rfm",
                new Derivation.ByExpression(
                        "recency == null || frequency == null || monetary == null ? \"\""
                                + " : string(recency) + string(frequency) + string(monetary)",
                        ColumnType.TEXT));
        Map<String, Long> ids = new HashMap<>();
        ids.put(
                "Contacts of freight companies",
                audience(
                        "Contacts of freight companies",
                        "Whom to call at a company with a freight account",
                        AudienceSpec.of(new Condition.RecordIn(people.get("freight")), ZONE)));
        ids.put(
                "Frequent crossers",
                audience(
                        "Frequent crossers",
                        "At least eight crossings in the last 90 days",
                        AudienceSpec.of(
                                new Condition.AllOf(List.of(new Condition.AttributeHolds(
                                        "crossings_90d",
                                        new ValueTest.NumberIs(ValueTest.Relation.AT_LEAST, BigDecimal.valueOf(8))))),
                                ZONE)));
        ids.put(
                "Lapsed islanders",
                audience(
                        "Lapsed islanders",
                        "Crossed from the outer islands, and not in the last 30 days",
                        AudienceSpec.of(lapsed(ids.get("Contacts of freight companies")), ZONE)));
        ids.put(
                "Best customers",
                audience(
                        "Best customers",
                        "The 200 who spent most in a year, a tenth of them as a control group",
                        new AudienceSpec(
                                new Condition.Everyone(),
                                "",
                                ZONE,
                                new ControlGroup(BigDecimal.TEN, "spring-2027"),
                                Optional.of(new AudienceSpec.Best("spent_12m", 200, true)))));
        ids.put(
                "Booked and waiting",
                audience(
                        "Booked and waiting",
                        "Booked in the last 120 days, and no crossing with a pass within two weeks of it",
                        AudienceSpec.of(
                                new Condition.AllOf(List.of(new Condition.EventThen(
                                        of("Bookings"), new Window.LastDays(120), of("Crossings"), 14, true))),
                                ZONE)));
        return new Ids(ids);
    }

    /**
     * A route that keeps a list at Lamplight Ads equal to an audience, for those who agreed.
     *
     * @return the route
     */
    public long advertise(String name, long audience, long lamplight, String list) {
        long dataset = editor.post("/api/audiences/" + audience + "/dataset", Map.of())
                .get("id")
                .asLong();
        return scenario.route(name, dataset, lamplight, list, hashed("email"));
    }

    /**
     * A list of hashed addresses, kept equal for those who agreed.
     *
     * @param column of the addresses
     */
    public static RouteSpec hashed(String column) {
        return RouteSpec.of(
                        Mode.MEMBERSHIP,
                        List.of("email_sha256"),
                        List.of(Scenario.from("email_sha256", column, new NormaliseEmail(false), new Sha256())),
                        new Basis.Consent("the newsletter", "may_newsletter_email"),
                        Guards.defaults(),
                        new Schedule.Daily(LocalTime.of(8, 30), ZONE))
                .leavers(new Leavers.TakeOff())
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    /**
     * A route that keeps the people who have a pass or a ticket at Postbag Mail, with what letters to them speak of, and its
     * unsubscribes brought back as consent.
     *
     * @param address of the region
     * @return the route
     */
    public long write(String address) {
        long postbag = Scenario.id(editor.post(
                "/api/destinations",
                Map.of(
                        "name",
                        "Postbag Mail",
                        "profile",
                        "postbag-mail",
                        "limitsOff",
                        false,
                        "settings",
                        Map.of("base_address", address, "bag_key", "bag-9027-halvorn"))));
        editor.put("/api/consents/feeds/" + postbag, Map.of("purpose", "newsletter", "channel", "email"));
        long source = editor.get("/api/people/overview").get("source").asLong();
        long dataset = scenario.dataset(
                source,
                "People to write to",
                "One row a person with an e-mail address, with measures and consent",
                "select * from people.person where email is not null",
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
                        "may_newsletter_email",
                        "CONSENT",
                        "changed_at",
                        "UPDATED_AT"));
        RouteSpec spec = RouteSpec.of(
                        Mode.ADD_OR_UPDATE,
                        List.of("mail"),
                        List.of(
                                Scenario.from("mail", "email", new NormaliseEmail(false))
                                        .ifEmpty(IfEmpty.HOLD_RECORD),
                                Scenario.from("given", "given_name"),
                                Scenario.from("family", "family_name"),
                                Scenario.from("port", "home_port"),
                                Scenario.from("days_since_crossing", "days_since_crossing"),
                                FieldRule.of("standing", new Receives.Fixed("subscribed"))
                                        .written(Written.WHEN_CREATING)),
                        new Basis.Consent("the newsletter", "may_newsletter_email"),
                        Guards.defaults(),
                        new Schedule.Daily(LocalTime.of(8, 30), ZONE))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
        return scenario.route("Letters", dataset, postbag, "person", spec);
    }

    private static Condition lapsed(long freight) {
        Measure ever = new Measure(of("Crossings"), new Window.LastDays(150), new Aggregation.CountOf());
        Measure lately = new Measure(of("Crossings"), new Window.LastDays(30), new Aggregation.CountOf());
        return new Condition.AllOf(List.of(
                new Condition.AttributeHolds(
                        "home_port", new ValueTest.OneOf(List.of("Tarva", "Ytre Holm", "Sandvær"))),
                new Condition.MeasureHolds(
                        ever, new ValueTest.NumberIs(ValueTest.Relation.AT_LEAST, BigDecimal.valueOf(3))),
                new Condition.MeasureHolds(lately, new ValueTest.NumberIs(ValueTest.Relation.EXACTLY, BigDecimal.ZERO)),
                new Condition.Unless(new Condition.InAudience(freight))));
    }

    private static EventsOf of(String events) {
        return new EventsOf(events, List.of());
    }

    private static Derivation over(EventsOf of, Window window, Aggregation aggregation, int... steps) {
        List<BigDecimal> bounds =
                Arrays.stream(steps).mapToObj(BigDecimal::valueOf).toList();
        return new Derivation.OverEvents(new Measure(of, window, aggregation), ZONE, bounds);
    }

    private void events(String name, long dataset, long people, String key, String time, List<String> columns) {
        editor.post(
                "/api/events",
                Map.of(
                        "name", name,
                        "datasetId", dataset,
                        "personDatasetId", people,
                        "personColumn", key,
                        "timeColumn", time,
                        "columns", columns,
                        "overlapDays", 3));
    }

    /** A record and no map, so that what is derived says its kind. */
    private record MeasureRequest(String name, String entityType, Derivation derivation) {}

    private void measure(String name, Derivation derivation) {
        editor.post("/api/measures", new MeasureRequest(name, "PERSON", derivation));
    }

    private long audience(String name, String description, AudienceSpec spec) {
        long id = editor.post(
                        "/api/audiences",
                        Map.of(
                                "name", name,
                                "description", description,
                                "entityType", "PERSON",
                                "basedOn", 0,
                                "spec", spec))
                .get("audience")
                .get("id")
                .asLong();
        editor.post("/api/audiences/" + id + "/in-service", Map.of("version", 1));
        return id;
    }

    /** Each person gets at most so many messages of a route. */
    public void limitMessages(int most, int days, long route) {
        editor.put(
                "/api/consents/frequency-cap",
                Map.of("limit", Map.of("most", most, "days", days), "routes", List.of(route)));
    }

    /** From now on it is done every morning, before routes depart. */
    public void daily() {
        editor.put(
                "/api/audiences/refreshes/schedule",
                new ScheduleRequest(new Schedule.Daily(LocalTime.of(5, 30), ZONE)));
    }

    private record ScheduleRequest(Schedule schedule) {}

    /** Reads events, works measures out and counts audiences, and waits until that is done. */
    public JsonNode refresh() {
        while (!begun()) {
            idle();
        }
        return idle();
    }

    private JsonNode idle() {
        return editor.until(
                "/api/audiences",
                seen -> seen.get("refresh").get("stage").asString().isEmpty());
    }

    /** A joining may begin one of its own between a look and the wish. */
    private boolean begun() {
        idle();
        try {
            editor.post("/api/audiences/refreshes", Map.of());
            return true;
        } catch (Api.Refused refused) {
            if (refused.status() != HTTP_CONFLICT) {
                throw refused;
            }
            return false;
        }
    }
}

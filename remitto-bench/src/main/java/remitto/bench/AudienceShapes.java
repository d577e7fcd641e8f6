package remitto.bench;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import remitto.core.audience.AudienceSpec;
import remitto.core.audience.Condition;
import remitto.core.audience.EventsOf;
import remitto.core.audience.Measure;
import remitto.core.audience.ValueTest;
import remitto.core.audience.ValueTest.Relation;
import remitto.core.audience.Window;

/** Ten shapes of conditions that marketers write, each with ways to say the same by hand over the tables that the product keeps. */
final class AudienceShapes {
    static final String ZONE = "Europe/Oslo";
    private static final String EVENTS = "audience.events_1 e join audience.record r using (record_no)";
    private static final String SUMMER =
            "e.at >= timestamptz '2026-03-01 00:00+01' and e.at < timestamptz '2026-09-01 00:00+02'";
    private static final Window SUMMER_WINDOW = new Window.FromTo(LocalDate.of(2026, 3, 1), LocalDate.of(2026, 8, 31));

    private final long other;

    /** @param other an audience that some are compared with */
    AudienceShapes(long other) {
        this.other = other;
    }

    /** @param byHand ways to count the same; the fastest is the measure */
    record Shape(String name, AudienceSpec spec, List<String> byHand) {}

    List<Shape> all() {
        return List.of(
                attributes(),
                oftenEver(),
                oftenInSummer(),
                spentInSummer(),
                severalLines(),
                notForLong(),
                dearOnOneLine(),
                noneInSummer(),
                oneAfterTheOther(),
                eitherOr());
    }

    private static Shape shape(String name, Condition condition, String... byHand) {
        return new Shape(name, AudienceSpec.of(new Condition.AllOf(List.of(condition)), ZONE), List.of(byHand));
    }

    private static EventsOf trips(EventsOf.EventTest... where) {
        return new EventsOf("Trips", List.of(where));
    }

    private static EventsOf.EventTest line(String line) {
        return new EventsOf.EventTest("line", new ValueTest.OneOf(List.of(line)));
    }

    private static Condition measured(
            EventsOf of, Window window, Measure.Aggregation aggregation, Relation relation, long number) {
        return new Condition.MeasureHolds(
                new Measure(of, window, aggregation), new ValueTest.NumberIs(relation, BigDecimal.valueOf(number)));
    }

    private static String having(String where, String having) {
        return "select count(*) from (select r.person_id from " + EVENTS + " where " + where
                + " group by r.person_id having " + having + ") m";
    }

    /** The same, with what is counted brought down to records before they are joined to people. */
    private static String byRecordFirst(String aggregate, String where, String having) {
        return "select count(*) from (select r.person_id from (select e.record_no, " + aggregate
                + " as v from audience.events_1 e where " + where
                + " group by 1) c join audience.record r using (record_no) group by r.person_id having " + having
                + ") m";
    }

    private static Shape attributes() {
        return shape(
                "attributes alone",
                new Condition.AllOf(List.of(
                        new Condition.AttributeHolds("home_port", new ValueTest.OneOf(List.of("Tarva", "Vik"))),
                        new Condition.AttributeHolds(
                                "score", new ValueTest.NumberIs(Relation.UNDER, BigDecimal.valueOf(30))))),
                "select count(*) from audience.person_base p where p.home_port in ('Tarva', 'Vik') and p.score < 30");
    }

    private static Shape oftenEver() {
        return shape(
                "often, ever",
                measured(trips(), new Window.Ever(), new Measure.Aggregation.CountOf(), Relation.AT_LEAST, 25),
                having("true", "count(*) >= 25"),
                byRecordFirst("count(*)", "true", "sum(v) >= 25"));
    }

    private static Shape oftenInSummer() {
        return shape(
                "often in half a year",
                measured(trips(), SUMMER_WINDOW, new Measure.Aggregation.CountOf(), Relation.AT_LEAST, 8),
                having(SUMMER, "count(*) >= 8"),
                byRecordFirst("count(*)", SUMMER, "sum(v) >= 8"));
    }

    private static Shape spentInSummer() {
        return shape(
                "spent in half a year",
                measured(trips(), SUMMER_WINDOW, new Measure.Aggregation.SumOf("price"), Relation.AT_LEAST, 1_500),
                having(SUMMER, "sum(e.price) >= 1500"),
                byRecordFirst("sum(e.price)", SUMMER, "sum(v) >= 1500"));
    }

    private static Shape severalLines() {
        return shape(
                "several lines",
                measured(trips(), SUMMER_WINDOW, new Measure.Aggregation.DistinctOf("line"), Relation.AT_LEAST, 3),
                having(SUMMER, "count(distinct e.line) >= 3"),
                "select count(*) from (select person_id from (select distinct r.person_id, e.line from " + EVENTS
                        + " where " + SUMMER + ") d group by 1 having count(*) >= 3) m");
    }

    private static Shape notForLong() {
        String today = "(now() at time zone '" + ZONE + "')::date";
        return shape(
                "not for long",
                measured(trips(), new Window.Ever(), new Measure.Aggregation.DaysSince(), Relation.AT_LEAST, 60),
                having("true", today + " - (max(e.at) at time zone '" + ZONE + "')::date >= 60"),
                byRecordFirst("max(e.at)", "true", today + " - (max(v) at time zone '" + ZONE + "')::date >= 60"));
    }

    private static Shape dearOnOneLine() {
        return shape(
                "dear ones on one line",
                measured(
                        trips(
                                line("TAR-YTR"),
                                new EventsOf.EventTest(
                                        "price", new ValueTest.NumberIs(Relation.AT_LEAST, BigDecimal.valueOf(200)))),
                        new Window.Ever(),
                        new Measure.Aggregation.CountOf(),
                        Relation.AT_LEAST,
                        4),
                having("e.line = 'TAR-YTR' and e.price >= 200", "count(*) >= 4"),
                byRecordFirst("count(*)", "e.line = 'TAR-YTR' and e.price >= 200", "sum(v) >= 4"));
    }

    private static Shape noneInSummer() {
        return shape(
                "none in half a year",
                new Condition.AllOf(List.of(
                        new Condition.AttributeHolds("home_port", new ValueTest.OneOf(List.of("Tarva"))),
                        measured(trips(), SUMMER_WINDOW, new Measure.Aggregation.CountOf(), Relation.EXACTLY, 0))),
                "select count(*) from audience.person_base p where p.home_port = 'Tarva' and not exists (select from "
                        + EVENTS + " where r.person_id = p.person_id and " + SUMMER + ")",
                "select count(*) from audience.person_base p where p.home_port = 'Tarva' and p.person_id not in (select"
                        + " r.person_id from " + EVENTS + " where r.person_id is not null and " + SUMMER + ")");
    }

    private static Shape oneAfterTheOther() {
        String within = "o.at > e.at and o.at < (((e.at at time zone '" + ZONE
                + "')::date + 8)::timestamp at time zone '" + ZONE + "')";
        return shape(
                "one after the other within a week",
                new Condition.EventThen(trips(line("TAR-YTR")), SUMMER_WINDOW, trips(line("YTR-SAN")), 7, false),
                "select count(distinct r.person_id) from " + EVENTS + " where e.line = 'TAR-YTR' and " + SUMMER
                        + " and exists (select from audience.record s join audience.events_1 o on o.record_no = s.record_no"
                        + " where s.person_id = r.person_id and o.line = 'YTR-SAN' and " + within + ")",
                "with e as materialized (select r.person_id, e.at from " + EVENTS + " where e.line = 'TAR-YTR' and "
                        + SUMMER + "), o as materialized (select r.person_id, e.at from " + EVENTS
                        + " where e.line = 'YTR-SAN' and e.at >= timestamptz '2026-03-01 00:00+01')"
                        + " select count(distinct e.person_id) from e join o on o.person_id = e.person_id and "
                        + within);
    }

    private Shape eitherOr() {
        return shape(
                "either an audience or a measure, and not another",
                new Condition.AllOf(List.of(
                        new Condition.AnyOf(List.of(
                                new Condition.InAudience(other),
                                measured(
                                        trips(),
                                        new Window.Ever(),
                                        new Measure.Aggregation.AverageOf("price"),
                                        Relation.AT_LEAST,
                                        180))),
                        new Condition.Unless(new Condition.AttributeHolds(
                                "home_port", new ValueTest.OneOf(List.of("Odde", "Sund")))))),
                "select count(*) from audience.person_base p where (p.home_port is null or p.home_port not in ('Odde', 'Sund'))"
                        + " and (p.person_id in (select m.person_id from audience_member m where m.audience_id = "
                        + other
                        + " and m.until is null and not m.held_out) or p.person_id in (select r.person_id from "
                        + EVENTS
                        + " group by 1 having avg(e.price) >= 180))");
    }
}

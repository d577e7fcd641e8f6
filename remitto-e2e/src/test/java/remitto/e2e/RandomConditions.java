package remitto.e2e;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.stream.IntStream;
import remitto.core.audience.Condition;
import remitto.core.audience.EventsOf;
import remitto.core.audience.Measure;
import remitto.core.audience.Measure.Aggregation;
import remitto.core.audience.Span;
import remitto.core.audience.ValueTest;
import remitto.core.audience.Window;
import remitto.core.dataset.ColumnType;

/** Conditions of every kind over an {@link AudienceWorld}, nested up to three deep. */
final class RandomConditions {
    private static final List<String> PARTS = List.of("", "t", "HOLM", "sand", "i̇nö", "Σ", "ς", "%", "_", "'");

    private final SplittableRandom random;
    private final AudienceWorld world;

    RandomConditions(long seed, AudienceWorld world) {
        this.random = new SplittableRandom(seed);
        this.world = world;
    }

    Condition next(int depth) {
        int kind = random.nextInt(depth > 0 ? 14 : 10);
        return switch (kind) {
            case 0 -> random.nextInt(4) == 0 ? new Condition.Everyone() : attribute();
            case 1, 2 -> attribute();
            case 3, 4, 5 -> measured();
            case 6 -> new Condition.EventThen(events(), window(), events(), random.nextInt(15), random.nextBoolean());
            case 7 -> new Condition.InAudience(1 + random.nextInt(3));
            case 8 ->
                new Condition.Agreed("news", random.nextInt(4) == 0 ? "sms" : "email", pick(Condition.Answer.values()));
            case 9 ->
                random.nextBoolean()
                        ? new Condition.RecordIn(1 + random.nextInt(3))
                        : new Condition.SentTo(1 + random.nextInt(2), pick(Condition.SentState.values()));
            case 10, 11 -> new Condition.Unless(next(depth - 1));
            case 12 -> new Condition.AllOf(several(depth - 1));
            default -> new Condition.AnyOf(several(depth - 1));
        };
    }

    private List<Condition> several(int depth) {
        return IntStream.range(0, random.nextInt(4)).mapToObj(i -> next(depth)).toList();
    }

    private Condition attribute() {
        List<String> names = List.copyOf(AudienceWorld.WORDS.attributes().keySet());
        String name = names.get(random.nextInt(names.size()));
        return new Condition.AttributeHolds(name, test(AudienceWorld.WORDS.attribute(name)));
    }

    private Condition measured() {
        EventsOf of = events();
        Measure measure = new Measure(of, window(), aggregation(of.events()));
        return new Condition.MeasureHolds(measure, test(measure.type(AudienceWorld.WORDS)));
    }

    private Aggregation aggregation(String events) {
        String other = events.equals("Crossings") ? "cars" : "price";
        return switch (random.nextInt(13)) {
            case 0, 1 -> new Aggregation.CountOf();
            case 2 -> new Aggregation.SumOf(other);
            case 3 -> new Aggregation.AverageOf("price");
            case 4 -> new Aggregation.SmallestOf("price");
            case 5 -> new Aggregation.LargestOf(other);
            case 6 -> new Aggregation.FirstOf("line");
            case 7 -> new Aggregation.LastOf(other);
            case 8 -> random.nextBoolean() ? new Aggregation.FirstDay() : new Aggregation.LastDay();
            case 9 -> new Aggregation.DaysSince();
            case 10 -> new Aggregation.DistinctOf("line");
            case 11 -> new Aggregation.Streak(pick(Span.values()));
            default -> new Aggregation.ShareOf(filters(events));
        };
    }

    private EventsOf events() {
        String events = random.nextBoolean() ? "Crossings" : "Bookings";
        return new EventsOf(events, random.nextInt(3) == 0 ? filters(events) : List.of());
    }

    private List<EventsOf.EventTest> filters(String events) {
        List<String> columns = List.copyOf(AudienceWorld.WORDS.columns(events).keySet());
        List<EventsOf.EventTest> tests = new ArrayList<>();
        for (int i = random.nextInt(3); i > 0; i--) {
            String column = columns.get(random.nextInt(columns.size()));
            tests.add(new EventsOf.EventTest(column, test(AudienceWorld.WORDS.column(events, column))));
        }
        return tests;
    }

    private ValueTest test(ColumnType type) {
        if (random.nextInt(8) == 0) {
            return random.nextBoolean() ? new ValueTest.HasNone() : new ValueTest.HasValue();
        }
        return switch (type) {
            case TEXT ->
                switch (random.nextInt(3)) {
                    case 0 -> new ValueTest.OneOf(List.of(pick(AudienceWorld.PORTS), pick(AudienceWorld.PORTS)));
                    case 1 -> new ValueTest.Contains(pick(PARTS));
                    default -> new ValueTest.BeginsWith(pick(PARTS));
                };
            case INTEGER, DECIMAL ->
                random.nextInt(4) == 0
                        ? new ValueTest.NumberWithin(number(type), number(type))
                        : new ValueTest.NumberIs(pick(ValueTest.Relation.values()), number(type));
            case BOOLEAN -> new ValueTest.TruthIs(random.nextBoolean());
            case DATE ->
                random.nextInt(3) == 0
                        ? new ValueTest.ComesRound(random.nextInt(40))
                        : new ValueTest.DayWithin(window());
            case TIMESTAMP -> new ValueTest.DayWithin(window());
        };
    }

    private BigDecimal number(ColumnType type) {
        return type == ColumnType.INTEGER
                ? BigDecimal.valueOf(random.nextInt(6))
                : new BigDecimal(pick(AudienceWorld.NUMBERS));
    }

    private Window window() {
        return switch (random.nextInt(8)) {
            case 0, 1 -> new Window.Ever();
            case 2, 3 -> new Window.LastDays(random.nextInt(40));
            case 4 -> new Window.LastHours(1 + random.nextInt(500));
            case 5 -> new Window.FromTo(world.day(), world.day());
            case 6 -> random.nextBoolean() ? new Window.OnOrAfter(world.day()) : new Window.Earlier(world.day());
            default -> new Window.Whole(pick(Span.values()), random.nextInt(3));
        };
    }

    private <T> T pick(T[] of) {
        return of[random.nextInt(of.length)];
    }

    private <T> T pick(List<T> of) {
        return of.get(random.nextInt(of.size()));
    }
}

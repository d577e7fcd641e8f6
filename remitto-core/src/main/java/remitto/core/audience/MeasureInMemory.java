package remitto.core.audience;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.TreeSet;
import java.util.function.Function;
import remitto.core.value.Value;

/** Works a measure out over the events of one person. */
final class MeasureInMemory {
    private static final Comparator<Facts.Event> IN_ORDER =
            Comparator.comparing(Facts.Event::at).thenComparing(Facts.Event::number);
    private static final int DECIMALS = 6;

    private final Window.Now now;

    MeasureInMemory(Window.Now now) {
        this.now = now;
    }

    /** The events that count, the earliest first. */
    List<Facts.Event> counting(Collection<Facts.Event> all, EventsOf of, Window window) {
        Window.Interval interval = window.at(now);
        return all.stream()
                .filter(event -> interval.contains(event.at()))
                .filter(event -> meets(event, of.where()))
                .sorted(IN_ORDER)
                .toList();
    }

    boolean meets(Facts.Event event, List<EventsOf.EventTest> tests) {
        return tests.stream().allMatch(one -> one.test().holds(event.column(one.column()), now));
    }

    Value of(Measure measure, Collection<Facts.Event> all) {
        List<Facts.Event> events = counting(all, measure.of(), measure.window());
        return events.isEmpty() ? measure.withoutEvents() : over(measure.aggregation(), events);
    }

    private Value over(Measure.Aggregation how, List<Facts.Event> events) {
        if (how instanceof Measure.Aggregation.CountOf) {
            return Value.number(events.size());
        } else if (how instanceof Measure.Aggregation.SumOf sum) {
            return Value.number(numbers(events, sum.column()).stream().reduce(BigDecimal.ZERO, BigDecimal::add));
        } else if (how instanceof Measure.Aggregation.AverageOf average) {
            return average(numbers(events, average.column()));
        } else if (how instanceof Measure.Aggregation.SmallestOf smallest) {
            return numbers(events, smallest.column()).stream()
                    .min(Comparator.naturalOrder())
                    .map(Value::number)
                    .orElse(Value.EMPTY);
        } else if (how instanceof Measure.Aggregation.LargestOf largest) {
            return numbers(events, largest.column()).stream()
                    .max(Comparator.naturalOrder())
                    .map(Value::number)
                    .orElse(Value.EMPTY);
        } else if (how instanceof Measure.Aggregation.FirstOf first) {
            return events.get(0).column(first.column());
        } else if (how instanceof Measure.Aggregation.LastOf last) {
            return last(events).column(last.column());
        } else if (how instanceof Measure.Aggregation.FirstDay) {
            return new Value.Day(day(events.get(0)));
        } else if (how instanceof Measure.Aggregation.LastDay) {
            return new Value.Day(day(last(events)));
        } else if (how instanceof Measure.Aggregation.DaysSince) {
            return Value.number(ChronoUnit.DAYS.between(day(last(events)), now.today()));
        } else if (how instanceof Measure.Aggregation.DistinctOf distinct) {
            return Value.number(events.stream()
                    .map(event -> event.column(distinct.column()))
                    .filter(value -> !value.isEmpty())
                    .distinct()
                    .count());
        } else if (how instanceof Measure.Aggregation.Streak streak) {
            return Value.number(streak(events, streak.span()));
        } else if (how instanceof Measure.Aggregation.ShareOf share) {
            long met =
                    events.stream().filter(event -> meets(event, share.tests())).count();
            return Value.number(BigDecimal.valueOf(100 * met)
                    .divide(BigDecimal.valueOf(events.size()), DECIMALS, RoundingMode.HALF_UP));
        }
        throw new AssertionError(how);
    }

    private static Value average(List<BigDecimal> numbers) {
        return numbers.isEmpty()
                ? Value.EMPTY
                : Value.number(numbers.stream()
                        .reduce(BigDecimal.ZERO, BigDecimal::add)
                        .divide(BigDecimal.valueOf(numbers.size()), DECIMALS, RoundingMode.HALF_UP));
    }

    private static Facts.Event last(List<Facts.Event> events) {
        return events.get(events.size() - 1);
    }

    private LocalDate day(Facts.Event event) {
        return event.at().atZone(now.zone()).toLocalDate();
    }

    private static List<BigDecimal> numbers(List<Facts.Event> events, String column) {
        return events.stream()
                .map(event -> event.column(column))
                .filter(Value.Decimal.class::isInstance)
                .map(value -> ((Value.Decimal) value).number())
                .toList();
    }

    private long streak(List<Facts.Event> events, Span span) {
        TreeSet<Long> stretches = new TreeSet<>();
        Function<LocalDate, Long> number = day -> numbered(day, span);
        events.forEach(event -> stretches.add(number.apply(day(event))));
        long longest = 0;
        long run = 0;
        long before = Long.MIN_VALUE;
        for (long stretch : stretches) {
            run = stretch == before + 1 ? run + 1 : 1;
            longest = Math.max(longest, run);
            before = stretch;
        }
        return longest;
    }

    private static long numbered(LocalDate day, Span span) {
        return switch (span) {
            case DAY -> day.toEpochDay();
            case WEEK ->
                ChronoUnit.WEEKS.between(
                        LocalDate.of(1970, 1, 5), day.with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY)));
            case MONTH -> day.getYear() * 12L + day.getMonthValue();
            case YEAR -> day.getYear();
        };
    }
}

package remitto.core.audience.sql;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import remitto.core.audience.AudienceFault;
import remitto.core.audience.Condition;
import remitto.core.audience.EventsOf;
import remitto.core.audience.Measure;
import remitto.core.audience.Measure.Aggregation;
import remitto.core.audience.Span;
import remitto.core.audience.Vocabulary;
import remitto.core.audience.Window;
import remitto.core.dataset.ColumnType;

/** Measures as SQL: a row of person_id and value for everybody who has such events. */
final class MeasureSql {
    private final Vocabulary words;
    private final Storage storage;
    private final TestSql tests;

    MeasureSql(Vocabulary words, Storage storage, TestSql tests) {
        this.words = words;
        this.storage = storage;
        this.tests = tests;
    }

    /** @param narrowed further conditions on {@code l.person_id}; nothing for all people */
    String of(Measure measure, String narrowed) {
        String from = from(measure.of(), measure.window()) + narrowed;
        if (measure.aggregation() instanceof Aggregation.Streak streak) {
            return "select person_id, max(run) as value from (select person_id, count(*) as run from"
                    + " (select person_id, n - row_number() over (partition by person_id order by n) as island from"
                    + " (select distinct l.person_id, " + numbered(streak.span()) + " as n" + from
                    + ") as stretches) as islands group by person_id, island) as runs group by person_id";
        }
        return "select l.person_id, " + aggregate(measure, "") + " as value" + from + " group by l.person_id";
    }

    /** Events {@code e} with their persons by {@code l}. */
    String from(EventsOf of, Window window) {
        StringBuilder sql = new StringBuilder(from(of, tests.within("e.at", window)));
        meets(of.events(), of.where(), sql);
        return sql.toString();
    }

    private void meets(String events, List<EventsOf.EventTest> where, StringBuilder sql) {
        for (EventsOf.EventTest one : where) {
            sql.append(" and ").append(met(events, one));
        }
    }

    private String met(String events, EventsOf.EventTest one) {
        ColumnType type = words.column(events, one.column());
        one.test().check(one.column(), type);
        return "(" + tests.of(one.test(), "e." + SqlText.name(one.column()), type) + ")";
    }

    /** True when it can be worked out beside others in one pass over their events. */
    static boolean fitsBesideOthers(Measure measure) {
        return !(measure.aggregation() instanceof Aggregation.Streak);
    }

    /**
     * The people for whom several tests hold, in one pass over events of one kind; those without any such event are not
     * among them.
     *
     * @param all measures over the same events, with their tests
     * @param holds whether all tests are to hold, or not all of them
     * @param narrowed further conditions on {@code l.person_id}; nothing for all people
     */
    String inOnePass(List<Condition.MeasureHolds> all, boolean holds, String narrowed) {
        List<String> tested = new ArrayList<>();
        for (Condition.MeasureHolds one : all) {
            Measure measure = one.measure();
            StringBuilder counts = new StringBuilder(tests.within("e.at", measure.window()));
            for (EventsOf.EventTest where : measure.of().where()) {
                counts.append(counts.isEmpty() ? "" : " and ")
                        .append(met(measure.of().events(), where));
            }
            String only = counts.isEmpty() ? "" : " filter (where " + counts + ")";
            tested.add("(" + tests.of(one.test(), "(" + aggregate(measure, only) + ")", measure.type(words)) + ")");
        }
        String having = String.join(" and ", tested);
        return "select l.person_id"
                + from(new EventsOf(all.get(0).measure().of().events(), List.of()), around(all)) + narrowed
                + " group by l.person_id having " + (holds ? having : "(" + having + ") is not true");
    }

    /** A condition on times that leaves out no event that any of them counts. */
    private String around(List<Condition.MeasureHolds> all) {
        List<Window.Interval> intervals =
                all.stream().map(one -> tests.interval(one.measure().window())).toList();
        Optional<Instant> from = intervals.stream().allMatch(one -> one.from().isPresent())
                ? intervals.stream().map(one -> one.from().orElseThrow()).min(Comparator.naturalOrder())
                : Optional.empty();
        Optional<Instant> until = intervals.stream().allMatch(one -> one.until().isPresent())
                ? intervals.stream().map(one -> one.until().orElseThrow()).max(Comparator.naturalOrder())
                : Optional.empty();
        return TestSql.within("e.at", new Window.Interval(from, until));
    }

    private String from(EventsOf of, String within) {
        return " from " + storage.eventsOf(of.events()) + " e join " + storage.links()
                + " l on l.record_no = e.record_no where l.person_id is not null"
                + (within.isEmpty() ? "" : " and " + within);
    }

    /** @param only a FILTER clause that every aggregate is under; nothing where all rows count */
    private String aggregate(Measure measure, String only) {
        Aggregation how = measure.aggregation();
        if (how instanceof Aggregation.CountOf) {
            return "count(*)" + only;
        } else if (how instanceof Aggregation.SumOf sum) {
            return "coalesce(sum(" + number(measure, sum.column()) + ")" + only + ", 0)";
        } else if (how instanceof Aggregation.AverageOf average) {
            String column = number(measure, average.column());
            return "round((sum(" + column + ")" + only + ")::numeric / nullif(count(" + column + ")" + only
                    + ", 0), 6)";
        } else if (how instanceof Aggregation.SmallestOf smallest) {
            return "min(" + number(measure, smallest.column()) + ")" + only;
        } else if (how instanceof Aggregation.LargestOf largest) {
            return "max(" + number(measure, largest.column()) + ")" + only;
        } else if (how instanceof Aggregation.FirstOf first) {
            return "(array_agg(" + column(measure, first.column()) + " order by e.at, e.event_no)" + only + ")[1]";
        } else if (how instanceof Aggregation.LastOf last) {
            return "(array_agg(" + column(measure, last.column()) + " order by e.at desc, e.event_no desc)" + only
                    + ")[1]";
        } else if (how instanceof Aggregation.FirstDay) {
            return tests.dayOf("min(e.at)" + only);
        } else if (how instanceof Aggregation.LastDay) {
            return tests.dayOf("max(e.at)" + only);
        } else if (how instanceof Aggregation.DaysSince) {
            return tests.today() + " - " + tests.dayOf("max(e.at)" + only);
        } else if (how instanceof Aggregation.DistinctOf distinct) {
            return "count(distinct " + column(measure, distinct.column()) + ")" + only;
        } else if (how instanceof Aggregation.ShareOf share) {
            StringBuilder met = new StringBuilder("true");
            meets(measure.of().events(), share.tests(), met);
            String inside =
                    only.isEmpty() ? "" : only.substring(" filter (where ".length(), only.length() - 1) + " and ";
            return "round(100.0 * count(*) filter (where " + inside + met + ") / nullif(count(*)" + only + ", 0), 6)";
        }
        throw new AssertionError(how);
    }

    private String numbered(Span span) {
        String day = tests.dayOf("e.at");
        return switch (span) {
            case DAY -> day + " - date '1970-01-01'";
            case WEEK -> "floor((" + day + " - date '1970-01-05') / 7.0)::bigint";
            case MONTH -> "(extract(year from " + day + ") * 12 + extract(month from " + day + "))::bigint";
            case YEAR -> "extract(year from " + day + ")::bigint";
        };
    }

    private String number(Measure measure, String column) {
        ColumnType type = words.column(measure.of().events(), column);
        if (type != ColumnType.INTEGER && type != ColumnType.DECIMAL) {
            throw new AudienceFault("\"" + column + "\" of \"" + measure.of().events() + "\" is not a number.");
        }
        return "e." + SqlText.name(column);
    }

    private String column(Measure measure, String column) {
        words.column(measure.of().events(), column);
        return "e." + SqlText.name(column);
    }
}

package remitto.core.audience.sql;

import java.util.List;
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
        return "select l.person_id, " + aggregate(measure) + " as value" + from + " group by l.person_id";
    }

    /** Events {@code e} with their persons by {@code l}. */
    String from(EventsOf of, Window window) {
        StringBuilder sql = new StringBuilder(" from " + storage.eventsOf(of.events()) + " e join " + storage.links()
                + " l on l.record_no = e.record_no where l.person_id is not null");
        String within = tests.within("e.at", window);
        if (!within.isEmpty()) {
            sql.append(" and ").append(within);
        }
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

    private String aggregate(Measure measure) {
        Aggregation how = measure.aggregation();
        if (how instanceof Aggregation.CountOf) {
            return "count(*)";
        } else if (how instanceof Aggregation.SumOf sum) {
            return "coalesce(sum(" + number(measure, sum.column()) + "), 0)";
        } else if (how instanceof Aggregation.AverageOf average) {
            String column = number(measure, average.column());
            return "round(sum(" + column + ")::numeric / nullif(count(" + column + "), 0), 6)";
        } else if (how instanceof Aggregation.SmallestOf smallest) {
            return "min(" + number(measure, smallest.column()) + ")";
        } else if (how instanceof Aggregation.LargestOf largest) {
            return "max(" + number(measure, largest.column()) + ")";
        } else if (how instanceof Aggregation.FirstOf first) {
            return "(array_agg(" + column(measure, first.column()) + " order by e.at, e.event_no))[1]";
        } else if (how instanceof Aggregation.LastOf last) {
            return "(array_agg(" + column(measure, last.column()) + " order by e.at desc, e.event_no desc))[1]";
        } else if (how instanceof Aggregation.FirstDay) {
            return tests.dayOf("min(e.at)");
        } else if (how instanceof Aggregation.LastDay) {
            return tests.dayOf("max(e.at)");
        } else if (how instanceof Aggregation.DaysSince) {
            return tests.today() + " - " + tests.dayOf("max(e.at)");
        } else if (how instanceof Aggregation.DistinctOf distinct) {
            return "count(distinct " + column(measure, distinct.column()) + ")";
        } else if (how instanceof Aggregation.ShareOf share) {
            StringBuilder met = new StringBuilder("true");
            meets(measure.of().events(), share.tests(), met);
            return "round(100.0 * count(*) filter (where " + met + ") / count(*), 6)";
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
            throw new remitto.core.audience.AudienceFault(
                    "\"" + column + "\" of \"" + measure.of().events() + "\" is not a number.");
        }
        return "e." + SqlText.name(column);
    }

    private String column(Measure measure, String column) {
        words.column(measure.of().events(), column);
        return "e." + SqlText.name(column);
    }
}

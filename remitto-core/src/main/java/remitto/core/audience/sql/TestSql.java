package remitto.core.audience.sql;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import remitto.core.audience.ValueTest;
import remitto.core.audience.Window;
import remitto.core.dataset.ColumnType;

/** Tests of one value as SQL; the outcome is true, or false or null where the test does not hold. */
final class TestSql {
    private final Window.Now now;

    TestSql(Window.Now now) {
        this.now = now;
    }

    String of(ValueTest test, String value, ColumnType type) {
        if (test instanceof ValueTest.OneOf one) {
            return value + " in (" + SqlText.texts(one.values()) + ")";
        } else if (test instanceof ValueTest.Contains contains) {
            return "strpos(" + lower(value) + ", "
                    + SqlText.text(contains.part().toLowerCase(Locale.ROOT)) + ") > 0";
        } else if (test instanceof ValueTest.BeginsWith begins) {
            return "starts_with(" + lower(value) + ", "
                    + SqlText.text(begins.part().toLowerCase(Locale.ROOT)) + ")";
        } else if (test instanceof ValueTest.HasValue) {
            return value + " is not null";
        } else if (test instanceof ValueTest.HasNone) {
            return value + " is null";
        } else if (test instanceof ValueTest.NumberIs number) {
            return value + " " + sign(number.relation()) + " " + number.number().toPlainString();
        } else if (test instanceof ValueTest.NumberWithin within) {
            return value + " between " + within.least().toPlainString() + " and "
                    + within.most().toPlainString();
        } else if (test instanceof ValueTest.DayWithin within) {
            String moment = type == ColumnType.DATE ? startOf(value) : value;
            String conditions = within(moment, within.window());
            return conditions.isEmpty() ? value + " is not null" : conditions;
        } else if (test instanceof ValueTest.ComesRound round) {
            return comesRound(value, round.days());
        } else if (test instanceof ValueTest.TruthIs truth) {
            return value + " = " + truth.truth();
        }
        throw new AssertionError(test);
    }

    /** A moment in a window; nothing when the window is open at both ends. */
    String within(String moment, Window window) {
        return within(moment, interval(window));
    }

    Window.Interval interval(Window window) {
        return window.at(now);
    }

    static String within(String moment, Window.Interval interval) {
        List<String> conditions = new ArrayList<>();
        interval.from().ifPresent(from -> conditions.add(moment + " >= " + SqlText.moment(from)));
        interval.until().ifPresent(until -> conditions.add(moment + " < " + SqlText.moment(until)));
        return String.join(" and ", conditions);
    }

    String today() {
        return SqlText.day(now.today());
    }

    String dayOf(String moment) {
        return "(" + moment + " at time zone " + zone() + ")::date";
    }

    String startOf(String day) {
        return "((" + day + ")::timestamp at time zone " + zone() + ")";
    }

    String now() {
        return SqlText.moment(now.instant());
    }

    private String zone() {
        return SqlText.text(now.zone().getId());
    }

    private String comesRound(String day, int days) {
        List<String> years = new ArrayList<>();
        for (int year : new int[] {now.today().getYear(), now.today().getYear() + 1}) {
            years.add("make_date(" + year + ", extract(month from " + day + ")::int, 1) + extract(day from " + day
                    + ")::int - 1 between " + today() + " and "
                    + SqlText.day(now.today().plusDays(days)));
        }
        return "(" + String.join(" or ", years) + ")";
    }

    /** By the rules of Unicode, whatever the collation of the database. */
    private static String lower(String value) {
        return "lower(" + value + " collate \"und-x-icu\")";
    }

    private static String sign(ValueTest.Relation relation) {
        return switch (relation) {
            case EXACTLY -> "=";
            case OVER -> ">";
            case AT_LEAST -> ">=";
            case UNDER -> "<";
            case AT_MOST -> "<=";
        };
    }
}

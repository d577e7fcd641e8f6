package remitto.core.landed;

import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** What columns of a table of ours have to be. */
public final class LandedColumns {
    /** More columns than this are no table of a person's making. */
    public static final int MOST = 1_000;

    /** PostgreSQL's limit of a name (15 manual, section 4.1.1). */
    private static final int MOST_NAME_BYTES = 63;

    private static final int MOST_DAYS = 36_500;

    private LandedColumns() {}

    /**
     * Everything that is wrong with columns, in sentences; empty if nothing is.
     *
     * @param of what the columns are of, such as {@code file}
     * @param zone tz database name
     */
    public static List<String> faults(List<LandedColumn> columns, String of, String zone) {
        List<String> faults = new ArrayList<>();
        if (columns.size() > MOST) {
            faults.add("A table has at most 1,000 columns.");
        }
        Set<String> names = new HashSet<>();
        for (LandedColumn column : columns) {
            name(column.name(), names, faults);
            if (column.from().isEmpty()) {
                faults.add("Say which column of the " + of + " " + column.name() + " is.");
            }
            CellReading.fault(column).ifPresent(faults::add);
        }
        try {
            ZoneId.of(zone);
        } catch (DateTimeException e) {
            faults.add("\"" + zone + "\" is no time zone; zones are called like Europe/Oslo.");
        }
        return faults;
    }

    /** What is wrong with how many days rows are kept; 0 is for good. */
    public static List<String> daysFaults(int days) {
        return days < 0 || days > MOST_DAYS ? List.of("Rows are kept for 1 to 36,500 days, or for good.") : List.of();
    }

    private static void name(String name, Set<String> names, List<String> faults) {
        if (name.isBlank()) {
            faults.add("Every column needs a name.");
        } else if (name.getBytes(StandardCharsets.UTF_8).length > MOST_NAME_BYTES || name.indexOf(0) >= 0) {
            faults.add("The name " + name + " is too long; a column's name has at most 63 bytes.");
        } else if (name.indexOf('\n') >= 0) {
            faults.add("A column's name stands on one line.");
        } else if (name.startsWith("_")) {
            faults.add("The name " + name + " begins with an underscore, as those of our own columns do.");
        } else if (!names.add(name.toLowerCase(Locale.ROOT))) {
            faults.add("Two columns are called " + name + ".");
        }
    }
}

package remitto.core.fileset;

import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * Files of one form that are read as the rows of one table.
 *
 * @param pattern of their paths below the source's folder, such as {@code berths_*.csv}: an asterisk stands for any characters but a
 *     slash, two for any characters, a question mark for one
 * @param zone tz database name of the zone of times that name none
 * @param keepDays how many days after a file was read its rows are kept; 0 for good
 */
public record FileSetDefinition(
        String pattern,
        FileFormat format,
        List<LandedColumn> columns,
        String zone,
        SeveralFiles several,
        AfterReading afterReading,
        int keepDays) {
    /** More columns than this are no table of a person's making. */
    public static final int MOST_COLUMNS = 1_000;

    /** PostgreSQL's limit of a name (15 manual, section 4.1.1). */
    private static final int MOST_NAME_BYTES = 63;

    public FileSetDefinition {
        columns = List.copyOf(columns);
    }

    public List<String> names() {
        return columns.stream().map(LandedColumn::name).toList();
    }

    /** Everything that is wrong with it, in sentences; empty if nothing is. */
    public List<String> faults() {
        List<String> faults = new ArrayList<>();
        if (FilePattern.fault(pattern).isPresent()) {
            faults.add(FilePattern.fault(pattern).get());
        }
        if (columns.isEmpty()) {
            faults.add("Choose at least one column.");
        }
        if (columns.size() > MOST_COLUMNS) {
            faults.add("A file set has at most 1,000 columns.");
        }
        Set<String> names = new HashSet<>();
        for (LandedColumn column : columns) {
            name(column.name(), names, faults);
            if (column.from().isEmpty()) {
                faults.add("Say which column of the file " + column.name() + " is.");
            }
            CellReading.fault(column).ifPresent(faults::add);
        }
        try {
            ZoneId.of(zone);
        } catch (DateTimeException e) {
            faults.add("\"" + zone + "\" is no time zone; zones are called like Europe/Oslo.");
        }
        if (keepDays < 0 || keepDays > 36_500) {
            faults.add("Rows are kept for 1 to 36,500 days, or for good.");
        }
        if (several instanceof SeveralFiles.EachHoldsChanges changes) {
            changes(changes, faults);
        }
        return faults;
    }

    private static void name(String name, Set<String> names, List<String> faults) {
        if (name.isBlank()) {
            faults.add("Every column needs a name.");
        } else if (name.getBytes(StandardCharsets.UTF_8).length > MOST_NAME_BYTES || name.indexOf(0) >= 0) {
            faults.add("The name " + name + " is too long; a column's name has at most 63 bytes.");
        } else if (name.startsWith("_")) {
            faults.add("The name " + name + " begins with an underscore, as those of our own columns do.");
        } else if (!names.add(name.toLowerCase(Locale.ROOT))) {
            faults.add("Two columns are called " + name + ".");
        }
    }

    private void changes(SeveralFiles.EachHoldsChanges changes, List<String> faults) {
        if (changes.keys().isEmpty()) {
            faults.add("Choose the key columns by which a change finds its record.");
        }
        List<String> named = new ArrayList<>(changes.keys());
        if (!changes.change().isBlank()) {
            named.add(changes.change());
            if (changes.removes().isEmpty()) {
                faults.add("Enter at least one word of " + changes.change() + " that removes a record.");
            }
        }
        named.stream()
                .filter(one -> !names().contains(one))
                .forEach(one -> faults.add("No column is called " + one + "."));
    }
}

package remitto.core.fileset;

import java.util.ArrayList;
import java.util.List;
import remitto.core.landed.LandedColumn;
import remitto.core.landed.LandedColumns;

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
        faults.addAll(LandedColumns.faults(columns, "file", zone));
        faults.addAll(LandedColumns.daysFaults(keepDays));
        if (several instanceof SeveralFiles.EachHoldsChanges changes) {
            changes(changes, faults);
        }
        return faults;
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

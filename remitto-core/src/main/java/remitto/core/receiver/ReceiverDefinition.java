package remitto.core.receiver;

import com.fasterxml.jackson.annotation.JsonIgnore;
import java.util.ArrayList;
import java.util.List;
import remitto.core.landed.LandedColumn;
import remitto.core.landed.LandedColumns;

/**
 * Calls of one tool that are kept as the rows of one table.
 *
 * @param check how a call is told to be of that tool
 * @param records where the list of records is in a body, such as {@code data.items}; blank if a body is one record, or a list of them
 * @param columns that are kept, {@code from} being names on the way to a value with full stops between, or {@code @header.} and the name
 *     of a header; without any, calls are caught as samples until there are some
 * @param eventKey value that tells events apart, written like {@code from}; the same one twice is one event. Blank for what CloudEvents
 *     and Standard Webhooks tell them apart by; other calls are then all different
 * @param zone tz database name of the zone of times that name none
 * @param keepDays how many days after a call its body and its rows are kept; 0 for good
 * @param callsPerMinute how many are taken; more are told to come again later
 * @param mostKilobytes of a body; larger ones are refused
 */
public record ReceiverDefinition(
        CallCheck check,
        String records,
        List<LandedColumn> columns,
        String eventKey,
        CallsMean several,
        String zone,
        int keepDays,
        int callsPerMinute,
        int mostKilobytes) {
    /** How a value of a header is named. */
    public static final String HEADER = "@header.";

    /** More than this on one machine is for a stream. */
    public static final int MOST_CALLS_PER_MINUTE = 600_000;

    public static final int MOST_KILOBYTES = 10_240;

    public ReceiverDefinition {
        columns = List.copyOf(columns);
    }

    public List<String> names() {
        return columns.stream().map(LandedColumn::name).toList();
    }

    /** Whether calls are still samples, of which nothing is made yet. */
    @JsonIgnore
    public boolean isCatching() {
        return columns.isEmpty();
    }

    /** Everything that is wrong with it, in sentences; empty if nothing is. */
    public List<String> faults() {
        List<String> faults = new ArrayList<>();
        check.problem().ifPresent(faults::add);
        faults.addAll(LandedColumns.faults(columns, "call", zone));
        faults.addAll(LandedColumns.daysFaults(keepDays));
        if (callsPerMinute < 1 || callsPerMinute > MOST_CALLS_PER_MINUTE) {
            faults.add("A receiver takes 1 to 600,000 calls a minute.");
        }
        if (mostKilobytes < 1 || mostKilobytes > MOST_KILOBYTES) {
            faults.add("A body may have 1 to 10,240 kilobytes.");
        }
        if (several instanceof CallsMean.LatestPerKey latest) {
            latest(latest, faults);
        }
        return faults;
    }

    private void latest(CallsMean.LatestPerKey latest, List<String> faults) {
        if (latest.keys().isEmpty() && !isCatching()) {
            faults.add("Choose the key columns by which a call finds its record.");
        }
        List<String> named = new ArrayList<>(latest.keys());
        if (!latest.orderBy().isBlank()) {
            named.add(latest.orderBy());
        }
        if (!latest.change().isBlank()) {
            named.add(latest.change());
            if (latest.removes().isEmpty()) {
                faults.add("Enter at least one word of " + latest.change() + " that removes a record.");
            }
        }
        named.stream()
                .filter(one -> !names().contains(one))
                .forEach(one -> faults.add("No column is called " + one + "."));
    }
}

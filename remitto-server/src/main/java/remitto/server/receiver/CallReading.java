package remitto.server.receiver;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import remitto.connect.call.CallBody;
import remitto.connect.call.CallRecord;
import remitto.core.landed.LandedColumn;
import remitto.core.landed.RowReading;
import remitto.core.receiver.CallHeaders;
import remitto.core.receiver.CallsMean;
import remitto.core.receiver.ReceiverDefinition;

/** Reads calls as the rows that a receiver makes of them. Not safe to share between threads. */
final class CallReading {
    /** Characters of all parts of a key. PostgreSQL's index holds up to 2,704 bytes together (15 manual, section 67.4.1). */
    private static final int LONGEST_KEY = 600;

    private static final int MOST_PROBLEMS = 5;

    private final ReceiverDefinition definition;
    private final RowReading reading;
    private final List<Integer> needed;
    private final int change;
    private final Set<String> removes = new HashSet<>();

    CallReading(ReceiverDefinition definition) {
        this.definition = definition;
        this.reading = new RowReading(definition.columns(), definition.zone());
        List<String> names = definition.names();
        if (definition.several() instanceof CallsMean.LatestPerKey latest) {
            List<Integer> columns =
                    new ArrayList<>(latest.keys().stream().map(names::indexOf).toList());
            if (!latest.orderBy().isBlank()) {
                columns.add(names.indexOf(latest.orderBy()));
            }
            this.needed = columns;
            this.change = names.indexOf(latest.change());
            latest.removes().forEach(word -> removes.add(plain(word)));
        } else {
            this.needed = List.of();
            this.change = -1;
        }
    }

    private static String plain(String word) {
        return word.strip().toLowerCase(Locale.ROOT);
    }

    /**
     * A record of a call as it would be kept.
     *
     * @param number of the record in its body
     * @param cells in the order of the columns; absent without a value
     * @param originals by column, of those that are spelled otherwise
     * @param event blank where it has none
     * @param removed whether it says that its record is gone
     */
    record CallRow(
            int number, List<Optional<String>> cells, Map<String, String> originals, String event, boolean removed) {}

    /**
     * A call as it was read.
     *
     * @param records how many it holds
     * @param rows of those that fit
     * @param problem what does not fit, in sentences; blank if everything does
     */
    record ReadCall(int records, List<CallRow> rows, String problem) {}

    ReadCall read(CallHeaders headers, byte[] body) {
        CallBody.Read read = CallBody.read(headers, body, definition.records());
        if (read instanceof CallBody.Read.Unreadable unreadable) {
            return new ReadCall(0, List.of(), unreadable.problem());
        }
        List<CallRecord> records = ((CallBody.Read.Records) read).records();
        List<CallRow> rows = new ArrayList<>();
        List<String> problems = new ArrayList<>();
        for (CallRecord record : records) {
            Optional<String> problem = record.problem().isEmpty() ? row(record, rows) : Optional.of(record.problem());
            problem.ifPresent(
                    text -> problems.add(records.size() == 1 ? text : "record " + record.number() + ": " + text));
        }
        String more = problems.size() > MOST_PROBLEMS ? "; and " + (problems.size() - MOST_PROBLEMS) + " more" : "";
        return new ReadCall(
                records.size(),
                rows,
                problems.isEmpty()
                        ? ""
                        : String.join("; ", problems.subList(0, Math.min(MOST_PROBLEMS, problems.size()))) + more
                                + ".");
    }

    private Optional<String> row(CallRecord record, List<CallRow> rows) {
        @Nullable String[] cells = new String[definition.columns().size()];
        for (int i = 0; i < cells.length; i++) {
            LandedColumn column = definition.columns().get(i);
            cells[i] = record.values().get(column.from());
        }
        RowReading.Landed landed = reading.read(cells);
        if (landed instanceof RowReading.Landed.Held held) {
            return Optional.of(held.problem());
        }
        RowReading.Landed.Kept kept = (RowReading.Landed.Kept) landed;
        Optional<String> fault = fault(kept.cells());
        if (fault.isPresent()) {
            return fault;
        }
        String event = event(record);
        if (event.length() > LONGEST_KEY) {
            return Optional.of("the event key is longer than 600 characters");
        }
        boolean missing = event.isEmpty() && !definition.eventKey().isBlank();
        if (missing) {
            return Optional.of("there is no event key at " + definition.eventKey());
        }
        boolean removed = change >= 0
                && kept.cells()
                        .get(change)
                        .filter(word -> removes.contains(plain(word)))
                        .isPresent();
        rows.add(new CallRow(record.number(), kept.cells(), kept.originals(), event, removed));
        return Optional.empty();
    }

    private Optional<String> fault(List<Optional<String>> cells) {
        int together = 0;
        for (int at : needed) {
            Optional<String> cell = cells.get(at).filter(text -> !text.isBlank());
            if (cell.isEmpty()) {
                return Optional.of(definition.names().get(at) + ": is empty, so the record cannot be told apart");
            }
            together += cell.get().length();
            if (together > LONGEST_KEY) {
                return Optional.of(definition.names().get(at) + ": is too long for a key");
            }
        }
        return Optional.empty();
    }

    /** A header is of the whole call, so that its records are told apart by their number. */
    private String event(CallRecord record) {
        String key = definition.eventKey();
        if (key.isBlank()) {
            return record.event();
        }
        String value = record.values().getOrDefault(key, "");
        return value.isBlank() || !key.startsWith(ReceiverDefinition.HEADER) ? value : value + " " + record.number();
    }
}

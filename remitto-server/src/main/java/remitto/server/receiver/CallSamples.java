package remitto.server.receiver;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;
import remitto.connect.call.CallBody;
import remitto.connect.call.CallRecord;
import remitto.core.landed.ColumnGuess;
import remitto.core.landed.ColumnGuesses;
import remitto.core.landed.LandedColumn;
import remitto.core.receiver.CallCheck;
import remitto.core.receiver.ReceiverDefinition;
import remitto.server.platform.Personal;

/** Looks at the latest calls, proposes columns of them, and shows what would become of them. Nothing is kept. */
@Component
class CallSamples {
    private static final int LOOKED_AT = 100;
    private static final int SHOWN_ROWS = 50;
    private static final int MOST_VALUES = 500;

    private final CallLog log;

    CallSamples(CallLog log) {
        this.log = log;
    }

    /**
     * A value that calls hold.
     *
     * @param from how it is named in a column; values of headers begin with {@code @header.}
     * @param example of the latest call that has it
     * @param proposed the column it could be, with its evidence
     */
    record CallValue(String from, @Personal String example, ColumnGuess proposed) {}

    /**
     * A record as it would be kept.
     *
     * @param call its id
     * @param cells in the order of the columns; absent without a value; none where it would be held
     * @param event that tells it apart; blank if nothing does
     * @param problem why the call would be held; blank if it would not
     */
    record CallSampleRow(
            long call,
            @Personal List<Optional<String>> cells,
            @Personal String event,
            @Personal(Personal.Part.IN_TEXT) String problem) {}

    /**
     * What the latest calls hold, and what a definition makes of them.
     *
     * @param calls how many were looked at, at most 100
     * @param values of bodies and then of headers, in the order of the latest call that has them
     * @param rows by the definition, those of the latest call first, at most 50; none without columns
     * @param held how many of the calls would be held
     */
    record CallSample(int calls, List<CallValue> values, List<CallSampleRow> rows, int held) {}

    CallSample sample(long receiver, ReceiverDefinition definition) {
        List<CallLog.SampleCall> calls = log.samples(receiver, LOOKED_AT);
        List<CallRecord> records = new ArrayList<>();
        for (CallLog.SampleCall call : calls) {
            if (CallBody.read(call.headers(), call.body(), definition.records())
                    instanceof CallBody.Read.Records read) {
                read.records().stream().filter(one -> one.problem().isEmpty()).forEach(records::add);
            }
        }
        List<CallSampleRow> rows = new ArrayList<>();
        int held = 0;
        if (!definition.isCatching() && definition.faults().isEmpty()) {
            CallReading reading = new CallReading(definition);
            for (CallLog.SampleCall call : calls) {
                CallReading.ReadCall read = reading.read(call.headers(), call.body());
                held += read.problem().isEmpty() ? 0 : 1;
                rows(call.id(), read, rows);
            }
        }
        return new CallSample(calls.size(), values(records), rows, held);
    }

    private static void rows(long call, CallReading.ReadCall read, List<CallSampleRow> rows) {
        if (!read.problem().isEmpty() && rows.size() < SHOWN_ROWS) {
            rows.add(new CallSampleRow(call, List.of(), "", read.problem()));
        }
        for (CallReading.CallRow row : read.rows()) {
            if (rows.size() < SHOWN_ROWS) {
                rows.add(new CallSampleRow(call, row.cells(), row.event(), ""));
            }
        }
    }

    private static List<CallValue> values(List<CallRecord> records) {
        Set<String> names = new LinkedHashSet<>();
        for (CallRecord record : records) {
            for (String name : record.values().keySet()) {
                if (names.size() < MOST_VALUES) {
                    names.add(name);
                }
            }
        }
        // What the body says comes first, and what is never shown is no value.
        List<String> from = names.stream()
                .filter(name ->
                        !name.startsWith(ReceiverDefinition.HEADER) || !CallCheck.NEVER_SHOWN.contains(named(name)))
                .sorted(Comparator.comparing(name -> name.startsWith(ReceiverDefinition.HEADER)))
                .toList();
        List<List<String>> rows = new ArrayList<>();
        for (CallRecord record : records) {
            rows.add(from.stream()
                    .map(name -> Optional.ofNullable(record.values().get(name)).orElse(""))
                    .toList());
        }
        List<ColumnGuess> guesses =
                ColumnGuesses.of(from.stream().map(CallSamples::named).toList(), rows);
        List<CallValue> values = new ArrayList<>();
        for (int i = 0; i < from.size(); i++) {
            LandedColumn guessed = guesses.get(i).column();
            LandedColumn column = new LandedColumn(guessed.name(), from.get(i), guessed.type(), guessed.spelling());
            values.add(new CallValue(
                    from.get(i),
                    example(records, from.get(i)),
                    new ColumnGuess(
                            column,
                            guesses.get(i).evidence(),
                            guesses.get(i).filled(),
                            guesses.get(i).distinct(),
                            guesses.get(i).asKey())));
        }
        return values;
    }

    /** A column of a header is called as the header is. */
    private static String named(String from) {
        return from.startsWith(ReceiverDefinition.HEADER) ? from.substring(ReceiverDefinition.HEADER.length()) : from;
    }

    private static String example(List<CallRecord> records, String name) {
        return records.stream()
                .map(CallRecord::values)
                .map(values -> values.getOrDefault(name, ""))
                .filter(value -> !value.isBlank())
                .findFirst()
                .orElse("");
    }
}

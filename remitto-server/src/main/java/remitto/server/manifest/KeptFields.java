package remitto.server.manifest;

import java.util.AbstractList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.connect.destination.Contents;
import remitto.core.destination.Field;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.value.Value;

/**
 * What a line to be sent writes, as it is kept. Most destinations take it over as it stands, so it is read only when somebody
 * asks for single values. Not safe to share between threads.
 */
final class KeptFields extends AbstractList<FieldDecision> implements Contents {
    private final LineFields reader;
    private final String text;
    private final Map<String, Field> described;
    private Optional<Map<String, Value>> values = Optional.empty();
    private Optional<List<FieldDecision>> decisions = Optional.empty();

    KeptFields(LineFields reader, String text, Map<String, Field> described) {
        this.reader = reader;
        this.text = text;
        this.described = described;
    }

    @Override
    public Optional<String> json() {
        return Optional.of(text);
    }

    @Override
    public Optional<Value> value(String field) {
        return values.isPresent()
                ? Optional.ofNullable(values.get().get(field))
                : reader.readWritten(text, field, described);
    }

    @Override
    public Map<String, Value> values() {
        Map<String, Value> read = values.orElseGet(() -> reader.readWritten(text, described));
        values = Optional.of(read);
        return read;
    }

    @Override
    public FieldDecision get(int index) {
        return decisions().get(index);
    }

    @Override
    public int size() {
        return decisions().size();
    }

    private List<FieldDecision> decisions() {
        List<FieldDecision> made = decisions.orElseGet(() -> values().entrySet().stream()
                .map(one -> new FieldDecision(one.getKey(), FieldOutcome.WRITTEN, Value.MISSING, one.getValue(), ""))
                .toList());
        decisions = Optional.of(made);
        return made;
    }
}

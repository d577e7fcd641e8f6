package remitto.server.dataset;

import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import remitto.connect.source.LookUp;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.value.Value;
import remitto.server.source.Sources;

/** Looks values up in other datasets than a route's own, in the versions in service. */
@Component
public class DatasetLookUps {
    private static final Duration TIME = Duration.ofMinutes(30);

    private final Datasets datasets;
    private final Sources sources;
    private final Clock clock;

    DatasetLookUps(Datasets datasets, Sources sources, Clock clock) {
        this.datasets = datasets;
        this.sources = sources;
        this.clock = clock;
    }

    /** The version in service; empty when there is none, or no such dataset. */
    public Optional<DatasetDefinition> inService(long dataset) {
        return datasets.find(dataset)
                .flatMap(found -> found.liveVersion().map(version -> datasets.version(dataset, version)));
    }

    public Optional<Columns> columns(long dataset) {
        return inService(dataset).map(definition -> new Columns(definition.columns()));
    }

    public Optional<Long> source(long dataset) {
        return datasets.find(dataset).map(Datasets.Dataset::sourceId);
    }

    /** What is found for each of some values, in the order the way asks for; nothing for the others. */
    public Map<String, List<Value>> find(DatasetLookUp way, Collection<String> keys) {
        Map<String, List<Value>> found = new HashMap<>();
        read(way, List.copyOf(keys), (key, value) -> found.computeIfAbsent(key, fresh -> new ArrayList<>())
                .add(value));
        return found;
    }

    /** Hands over every value with what is found for it, in the order the way asks for. */
    public void each(DatasetLookUp way, BiConsumer<String, Value> sink) {
        read(way, List.of(), sink);
    }

    private void read(DatasetLookUp way, List<String> keys, BiConsumer<String, Value> sink) {
        Map<Long, LookUp.Dataset> through = new HashMap<>();
        way.datasets().forEach(id -> through.put(id, asked(id)));
        LookUp lookUp = new LookUp(way, through, clock.instant());
        List<ColumnType> types = types(way);
        sources.rows(source(way.dataset()).orElseThrow()).lookUp(lookUp, keys, TIME, cells -> {
            sink.accept(String.valueOf(cells[0]), value(way, types, cells));
            return true;
        });
    }

    private LookUp.Dataset asked(long id) {
        DatasetDefinition definition =
                inService(id).orElseThrow(() -> new IllegalStateException("dataset " + id + " is not in service"));
        return new LookUp.Dataset(definition.query().asked(), definition.columns());
    }

    private List<ColumnType> types(DatasetLookUp way) {
        Columns columns = columns(way.last()).orElseThrow();
        return way.given().stream()
                .map(name -> columns.find(name)
                        .orElseThrow(() -> new IllegalStateException("no column " + name))
                        .type())
                .toList();
    }

    private static Value value(DatasetLookUp way, List<ColumnType> types, @Nullable String[] cells) {
        if (way.parts().isEmpty()) {
            return cell(types.get(0), cells[1]);
        }
        Map<String, Value> row = new LinkedHashMap<>();
        for (int i = 0; i < types.size(); i++) {
            row.put(way.parts().get(i).name(), cell(types.get(i), cells[i + 1]));
        }
        return new Value.Parts(row);
    }

    private static Value cell(ColumnType type, @Nullable String cell) {
        return cell == null ? Value.EMPTY : type.read(cell);
    }
}

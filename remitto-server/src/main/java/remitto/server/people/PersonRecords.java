package remitto.server.people;

import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.springframework.stereotype.Component;
import remitto.connect.warehouse.Warehouse;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.RecordKey;
import remitto.core.identity.Attribute;
import remitto.core.identity.Intake;
import remitto.core.identity.RecordRef;
import remitto.core.identity.RecordTable;
import remitto.core.value.Value;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.platform.Problem;
import remitto.server.source.Sources;

/** Reads the records of all datasets that describe people, as they are now. */
@Component
class PersonRecords {
    private static final Duration TIME = Duration.ofMinutes(30);

    private final PeopleSources sources;
    private final Datasets datasets;
    private final Sources warehouses;

    PersonRecords(PeopleSources sources, Datasets datasets, Sources warehouses) {
        this.sources = sources;
        this.datasets = datasets;
        this.warehouses = warehouses;
    }

    /**
     * What a source says of a record.
     *
     * @param cells by attribute, as the source spells it; nothing for what is empty
     * @param at when the source last changed it, where it says so
     */
    record Said(int place, Map<String, String> cells, Optional<Instant> at) {}

    /** Records with their tidied values, and what was said of each. */
    record Read(
            List<PeopleSources.PeopleSource> sources, RecordTable table, Map<RecordRef, Said> said, long withoutKey) {}

    Read read() {
        List<PeopleSources.PeopleSource> all = sources.all();
        if (all.isEmpty()) {
            throw Problem.invalid("No dataset describes people yet. Tie the columns of one.");
        }
        List<Attribute> attributes = all.stream()
                .flatMap(source -> source.columns().stream())
                .map(tied -> new Attribute(tied.attribute(), tied.kind()))
                .distinct()
                .toList();
        Intake whole = new Intake(attributes);
        RecordTable.Builder builder = new RecordTable.Builder(whole.attributes());
        Map<RecordRef, Said> said = new HashMap<>();
        long[] withoutKey = new long[1];
        for (int place = 0; place < all.size(); place++) {
            read(all.get(place), place, whole, builder, said, withoutKey);
        }
        return new Read(all, builder.build(), said, withoutKey[0]);
    }

    private void read(
            PeopleSources.PeopleSource source,
            int place,
            Intake whole,
            RecordTable.Builder builder,
            Map<RecordRef, Said> said,
            long[] withoutKey) {
        Datasets.Dataset dataset = datasets.get(source.datasetId());
        DatasetDefinition definition =
                datasets.version(dataset.id(), dataset.liveVersion().orElse(dataset.latestVersion()));
        Columns columns = new Columns(definition.columns());
        int[] keyAt = columns.keyPositions();
        Intake intake = new Intake(source.columns().stream()
                .map(tied -> new Attribute(tied.attribute(), tied.kind()))
                .toList());
        Intake.Tidying tidying = intake.tidying();
        int[] at = source.columns().stream()
                .mapToInt(tied -> columns.position(tied.column())
                        .orElseThrow(() -> Problem.invalid("Dataset " + source.dataset() + " has no column "
                                + tied.column() + " any more; tie its columns anew.")))
                .toArray();
        int[] target = intake.attributes().stream()
                .mapToInt(attribute -> whole.attributes().indexOf(attribute))
                .toArray();
        OptionalInt countryAt = columns.position(source.countryColumn());
        Optional<Column> updated = definition.columns().stream()
                .filter(column -> column.role() == ColumnRole.UPDATED_AT)
                .findFirst();
        List<String> names = columns.list().stream().map(Column::name).toList();
        String name = Long.toString(source.datasetId());
        warehouses
                .warehouse(dataset.sourceId())
                .read(Warehouse.single(definition.query().text()), names, List.of(), TIME, cells -> {
                    Optional<String> key = RecordKey.of(keyAt, cells);
                    if (key.isEmpty()) {
                        withoutKey[0]++;
                        return true;
                    }
                    String[] values = new String[at.length];
                    Map<String, String> spelled = new LinkedHashMap<>();
                    for (int i = 0; i < at.length; i++) {
                        String cell = cells[at[i]];
                        values[i] = cell == null ? "" : cell;
                        if (cell != null && !cell.isBlank()) {
                            spelled.put(source.columns().get(i).attribute(), cell.strip());
                        }
                    }
                    String country = countryAt.isPresent() && cells[countryAt.getAsInt()] != null
                            ? cells[countryAt.getAsInt()].strip()
                            : source.country();
                    String[] tidied = tidying.tidy(values, country);
                    String[] all = new String[whole.attributes().size()];
                    java.util.Arrays.fill(all, "");
                    for (int i = 0; i < target.length; i++) {
                        all[target[i]] = tidied[i];
                    }
                    RecordRef ref = new RecordRef(name, key.get());
                    if (said.putIfAbsent(ref, new Said(place, spelled, changed(updated, columns, cells))) == null) {
                        builder.add(ref, all);
                    } else {
                        withoutKey[0]++;
                    }
                    return true;
                });
    }

    private static Optional<Instant> changed(Optional<Column> updated, Columns columns, String[] cells) {
        return updated.flatMap(column -> Optional.ofNullable(
                        cells[columns.position(column.name()).orElseThrow()]))
                .flatMap(cell -> moment(cell));
    }

    private static Optional<Instant> moment(String cell) {
        try {
            return ColumnType.TIMESTAMP.read(cell) instanceof Value.Moment moment
                    ? Optional.of(moment.instant())
                    : Optional.empty();
        } catch (ColumnType.UnreadableCell e) {
            return Optional.empty();
        }
    }
}

package remitto.server.event;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.server.dataset.Datasets;
import remitto.server.dataset.MadeDatasets;
import remitto.server.people.EntityType;
import remitto.server.people.person.PersonFacts;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Which datasets are events of people, and what of them is kept here. */
@Component
public class EventSets {
    /** Columns that every table of events has for itself. */
    static final Set<String> OWN = Set.of("event_no", "record_no", "at");

    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final Datasets datasets;
    private final PersonFacts facts;
    private final Json json;
    private final Clock clock;
    private final References references;
    private final MadeDatasets made;

    EventSets(
            JdbcClient jdbc,
            JdbcTemplate template,
            Datasets datasets,
            PersonFacts facts,
            Json json,
            Clock clock,
            References references,
            MadeDatasets made) {
        this.made = made;
        this.references = references;
        this.jdbc = jdbc;
        this.template = template;
        this.datasets = datasets;
        this.facts = facts;
        this.json = json;
        this.clock = clock;
    }

    /** A column of events that is kept here. */
    public record EventColumn(String name, ColumnType type) {}

    /**
     * Events that are kept from a dataset.
     *
     * @param entityType whose events they are
     * @param personDatasetId the dataset whose key {@code personColumn} holds
     * @param overlapDays how many days before the newest event are read again, for those that came late
     * @param unlinked events whose record belongs to nobody yet
     * @param problem why the latest reading failed; blank when it went well
     */
    public record EventSet(
            long id,
            String name,
            EntityType entityType,
            long datasetId,
            String dataset,
            long personDatasetId,
            String personDataset,
            String personColumn,
            String timeColumn,
            List<EventColumn> columns,
            int overlapDays,
            long rows,
            long withoutKey,
            long withoutTime,
            long unlinked,
            Optional<Instant> newestAt,
            Optional<Instant> readAt,
            String problem) {
        /** The table that holds them. */
        public String table() {
            return "audience.events_" + id;
        }

        /** The events of a sample of people. */
        public String sample() {
            return "audience.events_" + id + "_sample";
        }

        public Map<String, ColumnType> types() {
            Map<String, ColumnType> types = new LinkedHashMap<>();
            columns.forEach(column -> types.put(column.name(), column.type()));
            return types;
        }
    }

    /**
     * What somebody says of a dataset of events.
     *
     * @param columns that are kept
     */
    public record EventSetRequest(
            String name,
            long datasetId,
            long personDatasetId,
            String personColumn,
            String timeColumn,
            List<String> columns,
            int overlapDays) {}

    public List<EventSet> all() {
        return jdbc.sql("""
                        select e.*, d.name as dataset, p.name as person_name from event_set e
                        join dataset d on d.id = e.dataset_id join dataset p on p.id = e.person_dataset order by e.name
                        """).query((row, number) -> read(row)).list();
    }

    public EventSet get(long id) {
        return all().stream()
                .filter(one -> one.id() == id)
                .findFirst()
                .orElseThrow(() -> Problem.notFound("set of events " + id));
    }

    private EventSet read(ResultSet row) throws SQLException {
        long people = row.getLong("person_dataset");
        return new EventSet(
                row.getLong("id"),
                row.getString("name"),
                facts.describes(people).orElse(EntityType.PERSON),
                row.getLong("dataset_id"),
                row.getString("dataset"),
                people,
                row.getString("person_name"),
                row.getString("person_column"),
                row.getString("time_column"),
                Arrays.asList(json.read(row.getString("columns"), EventColumn[].class)),
                row.getInt("overlap_days"),
                row.getLong("rows"),
                row.getLong("without_key"),
                row.getLong("without_time"),
                row.getLong("unlinked"),
                Rows.optionalTime(row, "newest_at"),
                Rows.optionalTime(row, "read_at"),
                row.getString("problem"));
    }

    @Transactional
    public long add(EventSetRequest request, String who) {
        List<EventColumn> columns = check(request);
        if (all().stream()
                .anyMatch(one -> one.name().equalsIgnoreCase(request.name().strip()))) {
            throw Problem.conflict(
                    "Events already have the name " + request.name().strip() + ".");
        }
        long id = jdbc.sql("""
                        insert into event_set (name, dataset_id, person_dataset, person_column, time_column, columns,
                          overlap_days, saved_by, saved_at)
                        values (?, ?, ?, ?, ?, ?::jsonb, ?, ?, ?) returning id
                        """)
                .params(
                        request.name().strip(),
                        request.datasetId(),
                        request.personDatasetId(),
                        request.personColumn(),
                        request.timeColumn(),
                        json.write(columns),
                        request.overlapDays(),
                        who,
                        Rows.time(clock.instant()))
                .query(Long.class)
                .single();
        makeTable(get(id));
        return id;
    }

    /** What is kept is read again after this. The name stays: measures and audiences speak of it. */
    @Transactional
    public void change(long id, EventSetRequest request, String who) {
        EventSet before = get(id);
        if (!before.name().equals(request.name().strip())) {
            throw Problem.invalid("Measures and audiences speak of \"" + before.name() + "\"; the name stays.");
        }
        List<EventColumn> columns = check(request);
        references.ofColumns(before.name()).forEach((name, users) -> {
            if (!Optional.ofNullable(before.types().get(name))
                    .equals(columns.stream()
                            .filter(column -> column.name().equals(name))
                            .map(EventColumn::type)
                            .findFirst())) {
                throw Problem.conflict("The column " + name + " stays as it is: " + String.join(", ", users) + " "
                        + (users.size() == 1 ? "speaks" : "speak") + " of it.");
            }
        });
        jdbc.sql("""
                        update event_set set dataset_id = ?, person_dataset = ?, person_column = ?, time_column = ?,
                          columns = ?::jsonb, overlap_days = ?, saved_by = ?, saved_at = ?, newest_at = null, read_at = null,
                          rows = 0 where id = ?
                        """)
                .params(
                        request.datasetId(),
                        request.personDatasetId(),
                        request.personColumn(),
                        request.timeColumn(),
                        json.write(columns),
                        request.overlapDays(),
                        who,
                        Rows.time(clock.instant()),
                        id)
                .update();
        List<String> dropped = before.columns().stream()
                .filter(column -> !columns.contains(column))
                .map(EventColumn::name)
                .toList();
        List<String> users = dropped.isEmpty() ? List.of() : made.remove(MadeDatasets.MadeOf.EVENTS, id);
        if (!users.isEmpty()) {
            throw Problem.conflict("The columns " + String.join(", ", dropped) + " stay as they are: "
                    + String.join(", ", users) + " may look up in them.");
        }
        facts.dropViews();
        dropTables(before);
        makeTable(get(id));
        facts.refreshViews();
    }

    @Transactional
    public void remove(long id) {
        EventSet set = get(id);
        List<String> users = references.of("events", set.name());
        if (!users.isEmpty()) {
            throw Problem.conflict(set.name() + " is used by " + String.join(", ", users) + ".");
        }
        users = made.remove(MadeDatasets.MadeOf.EVENTS, id);
        if (!users.isEmpty()) {
            throw Problem.conflict(set.name() + " is used by " + String.join(", ", users) + ".");
        }
        facts.dropViews();
        dropTables(set);
        jdbc.sql("delete from event_set where id = ?").param(id).update();
        facts.refreshViews();
    }

    private void dropTables(EventSet set) {
        template.execute("drop table if exists " + set.table() + ", " + set.sample());
    }

    private void makeTable(EventSet set) {
        StringBuilder columns = new StringBuilder(
                "event_no bigint generated always as identity, record_no bigint not null, at timestamptz not null");
        set.columns().forEach(column -> columns.append(", ")
                .append(quoted(column.name()))
                .append(' ')
                .append(sqlType(column.type())));
        template.execute("create table " + set.table() + " (" + columns + ")");
        makeIndexes(set);
        template.execute("create table " + set.sample() + " (like " + set.table() + ")");
    }

    void makeIndexes(EventSet set) {
        template.execute("create index events_" + set.id() + "_record on " + set.table() + " (record_no, at)");
        template.execute("create index events_" + set.id() + "_at on " + set.table() + " using brin (at)");
    }

    /** Filling a table again is faster without them. */
    void dropIndexes(EventSet set) {
        template.execute(
                "drop index if exists audience.events_" + set.id() + "_record, audience.events_" + set.id() + "_at");
    }

    /** The type of a column of our own tables that holds such values. */
    public static String sqlType(ColumnType type) {
        return switch (type) {
            case TEXT -> "text";
            case INTEGER -> "bigint";
            case DECIMAL -> "numeric";
            case BOOLEAN -> "boolean";
            case DATE -> "date";
            case TIMESTAMP -> "timestamptz";
        };
    }

    static String quoted(String name) {
        return "\"" + name.replace("\"", "\"\"") + "\"";
    }

    private List<EventColumn> check(EventSetRequest request) {
        if (request.name().isBlank()) {
            throw Problem.invalid("Give the events a name, such as Crossings.");
        }
        if (request.overlapDays() < 0 || request.overlapDays() > 400) {
            throw Problem.invalid("Days that are read again: 0 to 400.");
        }
        Columns columns = inService(request.datasetId());
        ColumnType time = type(columns, request.timeColumn());
        type(columns, request.personColumn());
        if (time != ColumnType.TIMESTAMP && time != ColumnType.DATE) {
            throw Problem.invalid("The column " + request.timeColumn() + " is no time.");
        }
        if (facts.describes(request.personDatasetId()).isEmpty()) {
            throw Problem.invalid("The records of "
                    + datasets.get(request.personDatasetId()).name()
                    + " are not mapped to people yet. Map its columns on the People page first.");
        }
        return request.columns().stream()
                .map(name -> {
                    if (OWN.contains(name.toLowerCase(Locale.ROOT))) {
                        throw Problem.invalid(
                                "A column called " + name + " cannot be kept; give it another name in the dataset.");
                    }
                    return new EventColumn(name, type(columns, name));
                })
                .toList();
    }

    private Columns inService(long dataset) {
        Datasets.Dataset one = datasets.get(dataset);
        return new Columns(datasets.version(
                        dataset,
                        one.liveVersion()
                                .orElseThrow(() ->
                                        Problem.invalid("Dataset " + one.name() + " has no version in service yet.")))
                .columns());
    }

    private static ColumnType type(Columns columns, String name) {
        return columns.list().stream()
                .filter(column -> column.name().equals(name))
                .map(Column::type)
                .findFirst()
                .orElseThrow(() -> Problem.invalid("The dataset has no column " + name + "."));
    }

    void failed(long id, String problem) {
        jdbc.sql("update event_set set problem = ? where id = ?")
                .params(problem, id)
                .update();
    }

    /** What a reading found. */
    record ReadCounts(long rows, long withoutKey, long withoutTime, long unlinked, Optional<Instant> newest) {}

    void readWas(long id, ReadCounts counts) {
        jdbc.sql("""
                        update event_set set rows = ?, without_key = ?, without_time = ?, unlinked = ?, newest_at = ?,
                          read_at = ?, problem = '' where id = ?
                        """)
                .params(
                        counts.rows(),
                        counts.withoutKey(),
                        counts.withoutTime(),
                        counts.unlinked(),
                        counts.newest().map(Rows::time).orElse(null),
                        Rows.time(clock.instant()),
                        id)
                .update();
    }
}

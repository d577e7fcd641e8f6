package remitto.server.event;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.server.dataset.Datasets;
import remitto.server.platform.Json;

/** What is kept of events, by table: names, columns, and which of those are sensitive where they come from. */
@Component
public class EventTables {
    private final JdbcClient jdbc;
    private final Datasets datasets;
    private final Json json;

    EventTables(JdbcClient jdbc, Datasets datasets, Json json) {
        this.jdbc = jdbc;
        this.datasets = datasets;
        this.json = json;
    }

    /**
     * @param columns besides those that every table of events has
     * @param sensitive those of the columns that are so in the dataset the events are read from
     */
    public record EventTable(long id, String name, List<String> columns, Set<String> sensitive) {
        /** Its view beside the people. */
        public String view() {
            return "events_" + id + "_" + name.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "_");
        }
    }

    public List<EventTable> all() {
        return jdbc.sql("select id, name, dataset_id, columns from event_set order by id")
                .query((row, number) -> new EventTable(
                        row.getLong("id"),
                        row.getString("name"),
                        Arrays.stream(json.read(row.getString("columns"), EventSets.EventColumn[].class))
                                .map(EventSets.EventColumn::name)
                                .toList(),
                        sensitive(row.getLong("dataset_id"))))
                .list();
    }

    private Set<String> sensitive(long dataset) {
        Datasets.Dataset one = datasets.get(dataset);
        return datasets.version(dataset, one.liveVersion().orElse(one.latestVersion())).columns().stream()
                .filter(column -> column.role() == ColumnRole.SENSITIVE)
                .map(Column::name)
                .collect(Collectors.toSet());
    }
}

package remitto.server.fieldbook;

import java.util.Collection;
import java.util.List;
import java.util.Locale;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Which objects of destinations fit the columns of a dataset: first those that its routes write, then by names that are equal. */
@Component
class FieldFits {
    private final JdbcClient jdbc;

    FieldFits(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * An object, and how well it fits.
     *
     * @param routes that send the dataset there
     * @param matching fields of the name of a column, without regard to case and underscores
     */
    record FieldFit(long destinationId, String destination, String object, String title, long routes, long matching) {}

    /** @param dataset 0 for one that was never saved */
    List<FieldFit> of(long dataset, Collection<String> columns) {
        return jdbc.sql("""
                        select * from (
                        select o.destination_id, t.name as destination, o.object, o.title,
                          (select count(*) from route r where r.dataset_id = :dataset and r.archived_at is null
                            and r.destination_id = o.destination_id and r.object = o.object) as routes,
                          (select count(*) from jsonb_array_elements(coalesce(o.description -> 'fields', '[]')) f
                            where replace(lower(f ->> 'name'), '_', '') = any (:columns)) as matching
                        from destination_object o join destination t on t.id = o.destination_id and t.archived_at is null) fit
                        order by routes > 0 desc, matching desc, destination, title
                        """)
                .param("dataset", dataset)
                .param(
                        "columns",
                        columns.stream()
                                .map(column -> column.toLowerCase(Locale.ROOT).replace("_", ""))
                                .toArray(String[]::new))
                .query((row, number) -> new FieldFit(
                        row.getLong("destination_id"),
                        row.getString("destination"),
                        row.getString("object"),
                        row.getString("title"),
                        row.getLong("routes"),
                        row.getLong("matching")))
                .list();
    }
}

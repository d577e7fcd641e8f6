package remitto.server.dataset;

import java.util.List;
import java.util.function.UnaryOperator;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.connect.warehouse.Preview;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;

/** Datasets that carry the people of an audience. They are datasets as any other, in service from the start. */
@Component
public class AudienceDatasets {
    private final Datasets datasets;
    private final DatasetQueries queries;
    private final JdbcClient jdbc;

    AudienceDatasets(Datasets datasets, DatasetQueries queries, JdbcClient jdbc) {
        this.datasets = datasets;
        this.queries = queries;
        this.jdbc = jdbc;
    }

    public record AudienceDatasetWish(long audienceId, String name, String description, long sourceId, String sql) {}

    /** @param roles gives the columns of the query their roles */
    @Transactional
    public long add(AudienceDatasetWish wish, UnaryOperator<List<Column>> roles, String who) {
        Preview preview = queries.preview(wish.sourceId(), wish.sql());
        List<Column> columns = roles.apply(preview.columns().stream()
                .map(column -> new Column(column.name(), column.type(), ColumnRole.ATTRIBUTE))
                .toList());
        DatasetDefinition definition = new DatasetDefinition(new DatasetDefinition.Query.SqlQuery(wish.sql()), columns);
        long id = datasets.add(wish.name(), wish.description(), wish.sourceId(), definition, who);
        datasets.putInService(id, 1);
        jdbc.sql("update dataset set audience_id = ? where id = ?")
                .params(wish.audienceId(), id)
                .update();
        return id;
    }
}

package remitto.server.dataset;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.connect.source.Preview;
import remitto.connect.source.SourceQuery;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;

/** Datasets that are made on demand, of an audience's people or of events. They are datasets as any other, in service from the start. */
@Component
public class MadeDatasets {
    private final Datasets datasets;
    private final DatasetQueries queries;
    private final JdbcClient jdbc;

    MadeDatasets(Datasets datasets, DatasetQueries queries, JdbcClient jdbc) {
        this.datasets = datasets;
        this.queries = queries;
        this.jdbc = jdbc;
    }

    /** What a dataset is made of. */
    public enum MadeOf {
        AUDIENCE("audience_id"),
        EVENTS("event_set_id");

        private final String column;

        MadeOf(String column) {
            this.column = column;
        }
    }

    /** @param id of the audience or the events */
    public record MadeDatasetRequest(MadeOf of, long id, String name, String description, long sourceId, String sql) {}

    /** @param id of the audience or the set of events */
    record Made(MadeOf of, long id) {}

    /** What datasets are made of, by their ids; those with a query of their own are missing. */
    Map<Long, Made> all() {
        Map<Long, Made> made = new HashMap<>();
        for (MadeOf of : MadeOf.values()) {
            jdbc.sql("select id, " + of.column + " as made_of from dataset where " + of.column + " is not null")
                    .query(row -> {
                        made.put(row.getLong("id"), new Made(of, row.getLong("made_of")));
                    });
        }
        return made;
    }

    /** The dataset that was made of it; absent when none was. */
    public Optional<Long> find(MadeOf of, long id) {
        return jdbc.sql("select id from dataset where " + of.column + " = ?")
                .param(id)
                .query(Long.class)
                .optional();
    }

    /** @param roles gives the columns of the query their roles */
    @Transactional
    public long add(MadeDatasetRequest request, UnaryOperator<List<Column>> roles, String who) {
        return add(request, columns(request.sourceId(), request.sql(), roles), who);
    }

    /** @param columns that it has, which its source is not asked for */
    @Transactional
    public long add(MadeDatasetRequest request, List<Column> columns, String who) {
        DatasetDefinition definition =
                new DatasetDefinition(new DatasetDefinition.Query.SqlQuery(request.sql()), columns);
        long id = datasets.add(request.name(), request.description(), request.sourceId(), definition, who);
        datasets.putInService(id, 1);
        jdbc.sql("update dataset set " + request.of().column + " = ? where id = ?")
                .params(request.id(), id)
                .update();
        return id;
    }

    /** The columns that a dataset of a query has, or would have. */
    public List<Column> columns(long source, String sql, UnaryOperator<List<Column>> roles) {
        Preview preview = queries.preview(source, SourceQuery.text(sql));
        return roles.apply(preview.columns().stream()
                .map(column -> new Column(column.name(), column.type(), ColumnRole.ATTRIBUTE))
                .toList());
    }

    /** Lets it go, unless a route reads it or looks up in it; their names then. */
    @Transactional
    public List<String> remove(MadeOf of, long id) {
        Optional<Long> dataset = find(of, id);
        List<String> users = dataset.map(this::users).orElse(List.of());
        if (users.isEmpty()) {
            dataset.ifPresent(one -> {
                jdbc.sql("delete from dataset_version where dataset_id = ?")
                        .param(one)
                        .update();
                jdbc.sql("delete from dataset where id = ?").param(one).update();
            });
        }
        return users;
    }

    private List<String> users(long dataset) {
        return jdbc.sql("""
                        select distinct 'route ' || r.name from route r join route_version v on v.route_id = r.id
                        where r.dataset_id = :id or jsonb_path_exists(v.definition, '$.rules.**.dataset ? (@ == $id)',
                          jsonb_build_object('id', :id::bigint)) order by 1
                        """).param("id", dataset).query(String.class).list();
    }
}

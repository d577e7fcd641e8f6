package remitto.server.probe;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.source.RowSource;
import remitto.server.platform.Rows;

/** What was seen of datasets. */
@Component
class DatasetProbes {
    private final JdbcClient jdbc;

    DatasetProbes(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Of a dataset that nobody has looked at, nothing. */
    DatasetProbe of(long dataset) {
        return jdbc.sql("select * from dataset_probe where dataset_id = ?")
                .param(dataset)
                .query((row, number) -> read(row))
                .optional()
                .orElseGet(() ->
                        new DatasetProbe(dataset, Optional.empty(), "", Optional.empty(), Optional.empty(), 0, ""));
    }

    private static DatasetProbe read(ResultSet row) throws SQLException {
        return new DatasetProbe(
                row.getLong("dataset_id"),
                Optional.of(row.getString("means"))
                        .filter(means -> !means.isEmpty())
                        .map(RowSource.Means::valueOf),
                row.getString("mark"),
                Rows.optionalTime(row, "looked_at"),
                Rows.optionalTime(row, "changed_at"),
                row.getLong("millis"),
                row.getString("problem"));
    }

    /** @return whether nobody else has begun to look since */
    boolean begin(DatasetProbe before, Instant now) {
        return jdbc.sql("""
                        insert into dataset_probe (dataset_id, looked_at) values (:dataset, :now)
                        on conflict (dataset_id) do update set looked_at = :now
                        where dataset_probe.looked_at is not distinct from :before
                        """)
                        .param("dataset", before.dataset())
                        .param("now", Rows.time(now))
                        .param(
                                "before",
                                before.lookedAt().map(Rows::time).orElse(null),
                                java.sql.Types.TIMESTAMP_WITH_TIMEZONE)
                        .update()
                == 1;
    }

    void seen(long dataset, RowSource.Means means, String mark, long millis) {
        jdbc.sql("update dataset_probe set means = ?, mark = ?, millis = ?, problem = '' where dataset_id = ?")
                .params(means.name(), mark, millis, dataset)
                .update();
    }

    void changed(long dataset, Instant at) {
        jdbc.sql("update dataset_probe set changed_at = ? where dataset_id = ?")
                .params(Rows.time(at), dataset)
                .update();
    }

    /** What was seen before still holds. */
    void failed(long dataset, String problem, long millis) {
        jdbc.sql("update dataset_probe set problem = ?, millis = ? where dataset_id = ?")
                .params(problem, millis, dataset)
                .update();
    }
}

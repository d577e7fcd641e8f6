package remitto.server.expectation;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.expectation.Response;
import remitto.server.platform.Rows;

/** Expectations that are not met now. */
@Component
public class BrokenExpectations {
    private static final String SELECT = """
            select b.*, d.name from broken_expectation b join dataset d on d.id = b.dataset_id
            where d.archived_at is null
            """;

    private final JdbcClient jdbc;

    BrokenExpectations(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * An expectation that the last read of a dataset did not meet.
     *
     * @param expectation in words
     * @param since when it was first not met
     * @param rows that do not meet it; 0 where it is about the dataset as a whole
     * @param detail what was found, in a sentence
     */
    public record BrokenExpectation(
            long datasetId,
            String dataset,
            String expectation,
            Response response,
            Instant since,
            long rows,
            String detail) {}

    /** Of all datasets, what stops routes first, then the longest broken. */
    public List<BrokenExpectation> all() {
        return jdbc.sql(SELECT + " order by b.response <> 'STOP_ROUTES', b.since, d.name, b.expectation")
                .query((row, number) -> broken(row))
                .list();
    }

    List<BrokenExpectation> of(long dataset) {
        return jdbc.sql(SELECT + " and b.dataset_id = ?")
                .param(dataset)
                .query((row, number) -> broken(row))
                .list();
    }

    private static BrokenExpectation broken(ResultSet row) throws SQLException {
        return new BrokenExpectation(
                row.getLong("dataset_id"),
                row.getString("name"),
                row.getString("expectation"),
                Response.valueOf(row.getString("response")),
                Rows.time(row, "since"),
                row.getLong("rows"),
                row.getString("detail"));
    }
}

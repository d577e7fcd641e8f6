package remitto.server.destination;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.destination.WholeFiles;
import remitto.server.platform.Rows;

/** Files that runs delivered. */
@Component
public class DeliveredFiles {
    private final JdbcClient jdbc;
    private final Clock clock;

    DeliveredFiles(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** A file that was delivered. */
    public record Delivery(
            long runId,
            String route,
            String object,
            String path,
            long rows,
            long bytes,
            String sha256,
            Instant deliveredAt) {}

    /** Of a destination, the latest first. */
    List<Delivery> latest(long destination) {
        return jdbc.sql("""
                        select f.*, o.name as route, o.object from file_delivery f join run r on r.id = f.run_id
                        join route o on o.id = r.route_id where o.destination_id = ? order by f.delivered_at desc, f.run_id desc
                        limit 20
                        """)
                .param(destination)
                .query((row, number) -> read(row))
                .list();
    }

    /** The file that a call of a run delivered, if it did. */
    public Optional<String> path(long run, int call) {
        return jdbc.sql("select path from file_delivery where run_id = ? and call_no = ?")
                .params(run, call)
                .query(String.class)
                .optional();
    }

    public int count(long run) {
        return jdbc.sql("select count(*) from file_delivery where run_id = ?")
                .param(run)
                .query(Integer.class)
                .single();
    }

    public void add(long run, int number, int call, WholeFiles.DeliveredFile file) {
        jdbc.sql("""
                        insert into file_delivery (run_id, number, call_no, path, rows, bytes, sha256, delivered_at)
                        values (?, ?, ?, ?, ?, ?, ?, ?) on conflict do nothing
                        """)
                .params(
                        run,
                        number,
                        call,
                        file.path(),
                        file.rows(),
                        file.bytes(),
                        file.sha256(),
                        Rows.time(clock.instant()))
                .update();
    }

    private static Delivery read(ResultSet row) throws SQLException {
        return new Delivery(
                row.getLong("run_id"),
                row.getString("route"),
                row.getString("object"),
                row.getString("path"),
                row.getLong("rows"),
                row.getLong("bytes"),
                row.getString("sha256"),
                Rows.time(row, "delivered_at"));
    }
}

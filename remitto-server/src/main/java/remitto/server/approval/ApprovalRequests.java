package remitto.server.approval;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.approval.ApprovalRequest.Kind;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/**
 * What people ask approvers for. A request is open as long as what it asks about waits: nothing has to be done about the request
 * itself.
 */
@Component
public class ApprovalRequests {
    private static final String OPEN = """
            select 'MANIFEST' as kind, n.id as subject_id, 0 as version,
              format('manifest %s of %s', n.id, r.name) as subject, q.note, q.asked_by, q.asked_at
            from approval_request q join run n on n.id = q.run_id join route r on r.id = n.route_id
            where n.state = 'AWAITING_APPROVAL'
            union all
            select 'ROUTE_VERSION', r.id, q.version, format('version %s of %s', q.version, r.name), q.note, q.asked_by, q.asked_at
            from approval_request q join route r on r.id = q.route_id
            where r.archived_at is null and r.live_version is distinct from q.version
              and q.version = (select max(v.number) from route_version v where v.route_id = r.id)
            """;

    private final JdbcClient jdbc;
    private final Clock clock;

    ApprovalRequests(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** Requests about what still waits, the oldest first. */
    public List<ApprovalRequest> open() {
        return jdbc.sql(OPEN + " order by asked_at, kind, subject_id")
                .query((row, number) -> request(row))
                .list();
    }

    private static ApprovalRequest request(ResultSet row) throws SQLException {
        return new ApprovalRequest(
                Kind.valueOf(row.getString("kind")),
                row.getLong("subject_id"),
                row.getInt("version"),
                row.getString("subject"),
                row.getString("note"),
                row.getString("asked_by"),
                Rows.time(row, "asked_at"));
    }

    /**
     * Asks, or asks again with other words.
     *
     * @param version of a route; 0 for a manifest
     * @throws Problem when nothing of the kind waits
     */
    @Transactional
    public ApprovalRequest ask(Kind kind, long subjectId, int version, String note, String who) {
        boolean manifest = kind == Kind.MANIFEST;
        int written = jdbc.sql(manifest ? """
                                  insert into approval_request (run_id, note, asked_by, asked_at)
                                  select id, :note, :who, :now from run where id = :subject
                                  on conflict (run_id) do update
                                  set note = excluded.note, asked_by = excluded.asked_by, asked_at = excluded.asked_at
                                  """ : """
                                  insert into approval_request (route_id, version, note, asked_by, asked_at)
                                  select route_id, number, :note, :who, :now from route_version
                                  where route_id = :subject and number = :version
                                  on conflict (route_id, version) do update
                                  set note = excluded.note, asked_by = excluded.asked_by, asked_at = excluded.asked_at
                                  """)
                .param("subject", subjectId)
                .param("version", version)
                .param("note", note)
                .param("who", who)
                .param("now", Rows.time(clock.instant()))
                .update();
        if (written == 0) {
            throw Problem.notFound(
                    manifest ? "manifest " + subjectId : "version " + version + " of route " + subjectId);
        }
        return open().stream()
                .filter(one -> one.kind() == kind && one.subjectId() == subjectId && one.version() == version)
                .findFirst()
                .orElseThrow(() -> Problem.conflict(
                        manifest
                                ? "This manifest does not wait for an approval."
                                : "This version does not wait: it is in service, or a later one was saved."));
    }
}

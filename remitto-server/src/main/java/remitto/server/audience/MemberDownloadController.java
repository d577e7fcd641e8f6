package remitto.server.audience;

import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.download.Downloads;
import remitto.server.journal.Journal;
import remitto.server.platform.Rows;

/** The members of an audience as a file; written down in the journal. */
@RestController
class MemberDownloadController {
    private static final int ROWS_AT_ONCE = 2_000;

    private final Audiences audiences;
    private final JdbcTemplate template;
    private final TransactionTemplate transactions;
    private final Downloads downloads;

    MemberDownloadController(
            Audiences audiences, JdbcTemplate template, TransactionTemplate transactions, Downloads downloads) {
        this.audiences = audiences;
        this.template = template;
        this.transactions = transactions;
        this.downloads = downloads;
    }

    /** CSV (RFC 4180): one row a member, the control group marked. */
    @GetMapping(path = "/api/audiences/{id}/members.csv", produces = "text/csv")
    void membersAsCsv(@PathVariable long id, HttpServletResponse response) {
        Audiences.Audience audience = audiences.get(id);
        downloads.csv(
                new Downloads.Download(
                        "members.csv", "downloaded members", new Journal.Subject("audience", id, audience.name())),
                List.of("person", "label", "since", "held_out"),
                response,
                csv -> transactions.executeWithoutResult(status -> template.query(
                        connection -> {
                            var statement = connection.prepareStatement("""
                                    select m.person_id, coalesce(p.label, '') as label, c.counted_at, m.held_out
                                    from audience_member m join audience_count c on c.id = m.since
                                    left join person p on p.id = m.person_id
                                    where m.audience_id = ? and m.until is null order by m.person_id
                                    """);
                            statement.setFetchSize(ROWS_AT_ONCE);
                            statement.setLong(1, id);
                            return statement;
                        },
                        row -> {
                            csv.row(
                                    row.getLong("person_id"),
                                    row.getString("label"),
                                    Rows.time(row, "counted_at"),
                                    row.getBoolean("held_out"));
                        })));
    }
}

package remitto.server.audience;

import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.platform.Rows;

/** The members of an audience as a file; written down in the journal. */
@RestController
class MemberDownloadController {
    private static final int ROWS_AT_ONCE = 2_000;

    private final Audiences audiences;
    private final JdbcTemplate template;
    private final TransactionTemplate transactions;
    private final Journal journal;

    MemberDownloadController(
            Audiences audiences, JdbcTemplate template, TransactionTemplate transactions, Journal journal) {
        this.audiences = audiences;
        this.template = template;
        this.transactions = transactions;
        this.journal = journal;
    }

    /** CSV (RFC 4180): one row a member, the held out marked. */
    @GetMapping(path = "/api/audiences/{id}/members.csv", produces = "text/csv")
    void membersAsCsv(@PathVariable long id, Principal who, HttpServletResponse response) throws IOException {
        Audiences.Audience audience = audiences.get(id);
        journal.write(
                who.getName(),
                "downloaded members",
                new Journal.Subject("audience", id, audience.name()),
                "members.csv");
        response.setContentType("text/csv;charset=utf-8");
        response.setHeader("Content-Disposition", "attachment; filename=\"members.csv\"");
        Writer out = new BufferedWriter(new OutputStreamWriter(response.getOutputStream(), StandardCharsets.UTF_8));
        try (CSVPrinter csv = new CSVPrinter(
                out,
                CSVFormat.RFC4180
                        .builder()
                        .setHeader("person", "label", "since", "held_out")
                        .get())) {
            transactions.executeWithoutResult(status -> template.query(
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
                        try {
                            csv.printRecord(
                                    row.getLong("person_id"),
                                    row.getString("label"),
                                    Rows.time(row, "counted_at"),
                                    row.getBoolean("held_out"));
                        } catch (IOException e) {
                            throw new UncheckedIOException(e);
                        }
                    }));
        }
    }
}

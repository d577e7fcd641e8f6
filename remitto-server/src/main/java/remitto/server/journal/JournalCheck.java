package remitto.server.journal;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;

/** Reads the whole journal and tells whether it is as it was written. Reads row by row, in one transaction. */
public final class JournalCheck {
    /** An entry may be this old before it has to be sealed. */
    private static final Duration SEALED_WITHIN = Duration.ofMinutes(10);

    private static final int FETCH = 2_000;
    private static final int MOST_FAULTS = 50;

    private final Connection connection;
    private final List<String> faults = new ArrayList<>();
    private long entries;
    private long sealed;
    private long withoutWords;
    private byte[] head = JournalChain.START;

    /** @param connection to Remitto's database; its transaction is the caller's */
    public JournalCheck(Connection connection) {
        this.connection = connection;
    }

    /**
     * What was found.
     *
     * @param withoutWords entries whose words were erased, or are no longer kept; their place in the chain is checked all the same
     * @param head the last hash, in hexadecimal: whoever notes it down elsewhere can tell later that nothing after it was cut off
     * @param locked nobody that the asking login is, or may become, can change the journal
     * @param faults in words; the first {@value #MOST_FAULTS}
     */
    public record Report(
            long entries, long sealed, long withoutWords, String head, boolean locked, List<String> faults) {
        public Report {
            faults = List.copyOf(faults);
        }
    }

    /** Reads all of it. */
    public Report run() throws SQLException {
        connection.setAutoCommit(false);
        try (Statement statement = connection.createStatement()) {
            statement.execute("set transaction isolation level repeatable read read only");
            chain();
            unsealed(statement);
            words();
            return new Report(
                    entries, sealed, withoutWords, HexFormat.of().formatHex(head), isLocked(statement), faults);
        } finally {
            connection.rollback();
        }
    }

    static JournalChain.Link link(ResultSet row) throws SQLException {
        long user = row.getLong("actor_id");
        Optional<Long> actorId = row.wasNull() ? Optional.empty() : Optional.of(user);
        return new JournalChain.Link(
                row.getLong("id"),
                row.getObject("at", OffsetDateTime.class).toInstant(),
                row.getString("actor"),
                actorId,
                row.getString("action"),
                row.getString("subject_kind"),
                row.getLong("subject_id"),
                row.getBytes("words"));
    }

    private void fault(String words) {
        if (faults.size() < MOST_FAULTS) {
            faults.add(words);
        }
    }

    private interface Each {
        void row(ResultSet row) throws SQLException;
    }

    private void each(String sql, Each each) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setFetchSize(FETCH);
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    each.row(rows);
                }
            }
        }
    }

    private void chain() throws SQLException {
        each("""
                select s.seal_no, s.journal_id, s.hash, j.* from ledger.journal_seal s
                left join ledger.journal j on j.id = s.journal_id order by s.seal_no
                """, row -> {
            sealed++;
            long number = row.getLong("seal_no");
            byte[] hash = row.getBytes("hash");
            if (number != sealed) {
                fault("Seal " + sealed + " is missing; the next there is has the number " + number + ".");
                sealed = number;
            }
            if (row.getObject("id") == null) {
                fault("Entry " + row.getLong("journal_id") + ", which was sealed, is missing.");
            } else if (!Arrays.equals(hash, JournalChain.next(head, number, link(row)))) {
                fault("Entry " + row.getLong("id") + " is not as it was sealed, or what was sealed before it is not.");
            }
            head = hash;
        });
    }

    private void unsealed(Statement statement) throws SQLException {
        try (ResultSet row = statement.executeQuery("""
                select count(*), count(*) filter (where s.journal_id is null and j.at < clock_timestamp() - interval '%d seconds')
                from ledger.journal j left join ledger.journal_seal s on s.journal_id = j.id
                """.formatted(SEALED_WITHIN.toSeconds()))) {
            row.next();
            entries = row.getLong(1);
            if (row.getLong(2) > 0) {
                fault(row.getLong(2) + " entries are older than " + SEALED_WITHIN.toMinutes()
                        + " minutes and were never sealed.");
            }
        }
    }

    private void words() throws SQLException {
        each("""
                select j.id, j.words, w.subject, w.detail, w.salt from ledger.journal j
                left join journal_words w on w.journal_id = j.id order by j.id
                """, row -> {
            if (row.getBytes("salt") == null) {
                withoutWords++;
            } else if (!Arrays.equals(
                    row.getBytes("words"),
                    JournalChain.words(row.getBytes("salt"), row.getString("subject"), row.getString("detail")))) {
                fault("The words of entry " + row.getLong("id") + " are not those that were written.");
            }
        });
    }

    private static boolean isLocked(Statement statement) throws SQLException {
        try (ResultSet row = statement.executeQuery("""
                select bool_and(not pg_has_role(current_user, c.relowner, 'MEMBER')
                    and not has_table_privilege(c.oid, 'UPDATE, DELETE, TRUNCATE, TRIGGER'))
                  and not pg_has_role(current_user, n.nspowner, 'MEMBER')
                from pg_class c join pg_namespace n on n.oid = c.relnamespace
                where n.nspname = 'ledger' and c.relkind = 'r' group by n.nspowner
                """)) {
            return row.next() && row.getBoolean(1);
        }
    }
}

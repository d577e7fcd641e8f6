package remitto.server.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.core.io.ClassPathResource;
import remitto.server.harness.TestServer;

/** The journal is changed by nobody the server signs in as; who changes it all the same, with more rights than that, is found out. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class JournalLockTest {
    private TestServer server;

    @BeforeAll
    void aJournalWithSomeEntries() throws Exception {
        server = TestServer.start();
        server.user("EDITOR");
        server.user("VIEWER");
        assertThat(check().locked()).as("as it is before somebody locks it").isFalse();
        String lock = new String(
                new ClassPathResource("db/lock-journal.sql").getContentAsByteArray(), StandardCharsets.UTF_8);
        server.cluster().run(server.database(), lock.replace(":\"server\"", "remitto"));
        server.bean(JournalSealer.class).seal();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private Connection asServer() throws SQLException {
        return DriverManager.getConnection(
                server.cluster().url(server.database()),
                "remitto",
                server.cluster().password());
    }

    private JournalCheck.Report check() throws SQLException {
        try (Connection connection = asServer()) {
            return new JournalCheck(connection).run();
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "update ledger.journal set actor = 'somebody else'",
                "delete from ledger.journal",
                "truncate ledger.journal cascade",
                "drop table ledger.journal cascade",
                "drop schema ledger cascade",
                "alter table ledger.journal disable trigger all",
                "alter table ledger.journal owner to remitto",
                "create or replace function ledger.journal_is_append_only() returns trigger language plpgsql as $$ begin return new; end $$",
                "create trigger other before insert on ledger.journal for each row execute function ledger.journal_is_append_only()",
                "update ledger.journal_seal set hash = ''",
                "delete from ledger.journal_seal",
                "set role remitto_journal",
                "grant all on ledger.journal to remitto"
            })
    void theServersLoginChangesNothingOfIt(String attack) throws SQLException {
        String before = server.cluster()
                .text(server.database(), "select count(*) || md5(string_agg(j::text, '')) from ledger.journal j");
        try (Connection connection = asServer();
                Statement statement = connection.createStatement()) {
            if (attack.startsWith("grant")) {
                // Granted by somebody who may not, it does nothing but warn.
                statement.execute(attack);
            } else {
                assertThatThrownBy(() -> statement.execute(attack)).isInstanceOf(SQLException.class);
            }
        }
        assertThat(server.cluster()
                        .text(
                                server.database(),
                                "select count(*) || md5(string_agg(j::text, '')) from ledger.journal j"))
                .isEqualTo(before);
        assertThat(check().locked()).isTrue();
    }

    @Test
    void itGoesOnAddingAndTheChainHolds() throws SQLException {
        long before = check().entries();
        server.user("APPROVER");
        assertThat(server.bean(JournalSealer.class).seal() + check().sealed()).isPositive();
        JournalCheck.Report report = check();
        assertThat(report.entries()).isGreaterThan(before);
        assertThat(report.faults()).isEmpty();
        assertThat(report.locked()).isTrue();
        assertThat(report.head()).hasSize(64);
    }

    /** What a superuser does, and how it is told. Each is put back. */
    @Test
    void whatASuperuserChangesIsFoundOut() throws SQLException {
        server.bean(JournalSealer.class).seal();
        String quiet = "set session_replication_role = replica; ";
        for (Map.Entry<String, String> tampering : Map.of(
                        quiet + "update ledger.journal set actor = 'nobody' where id = 2",
                        "Entry 2 is not as it was sealed",
                        quiet + "delete from ledger.journal where id = 3",
                        "Entry 3, which was sealed, is missing",
                        quiet + "delete from ledger.journal_seal where seal_no = 2",
                        "Seal 2 is missing",
                        "update journal_words set detail = 'nothing happened' where journal_id = 2",
                        "The words of entry 2 are not those that were written",
                        quiet + "insert into ledger.journal (at, actor, action, subject_kind, subject_id, words)"
                                + " values (now() - interval '1 hour', 'x', 'y', 'z', 1, '')",
                        "were never sealed")
                .entrySet()) {
            try (Connection connection = server.cluster().superuser(server.database());
                    Statement statement = connection.createStatement()) {
                // Nothing is sealed meanwhile by the timetable, which would be too good at its work.
                statement.execute("select pg_advisory_lock(" + JournalSealer.ADVISORY_LOCK + ")");
                statement.execute("create schema kept; create table kept.j as select * from ledger.journal;"
                        + " create table kept.s as select * from ledger.journal_seal;"
                        + " create table kept.w as select * from journal_words");
                statement.execute(tampering.getKey());
                List<String> faults = check().faults();
                statement.execute(quiet
                        + "delete from journal_words; delete from ledger.journal_seal; delete from ledger.journal;"
                        + " insert into ledger.journal overriding system value select * from kept.j;"
                        + " insert into ledger.journal_seal select * from kept.s; insert into journal_words select * from kept.w;"
                        + " drop schema kept cascade");
                assertThat(faults).as(tampering.getKey()).anyMatch(fault -> fault.contains(tampering.getValue()));
            }
            assertThat(check().faults()).isEmpty();
        }
    }

    @Test
    void wordsThatWereErasedLeaveTheChainWhole() throws SQLException {
        server.bean(JournalSealer.class).seal();
        long without = check().withoutWords();
        server.cluster().run(server.database(), "delete from journal_words where journal_id = 1");
        JournalCheck.Report report = check();
        assertThat(report.withoutWords()).isEqualTo(without + 1);
        assertThat(report.faults()).isEmpty();
        assertThat(server.admin().get("/api/journal").ok().get("entries").valueStream())
                .anySatisfy(entry -> assertThat(entry.get("subject").asString()).isEqualTo(Journal.ERASED));
    }
}

package remitto.server.source;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.postgres.PostgresDialect;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceQuery;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestCluster;

/** Whatever is written to a table that a query reads is noticed by what PostgreSQL counts, and nothing else is. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class PostgresMarkTest {
    private static final Duration TIME = Duration.ofSeconds(20);

    private final TestCluster cluster = TestCluster.given();
    private final String database = "marks_" + ProcessHandle.current().pid();

    @BeforeAll
    void make() {
        cluster.make(database, "shop_owner");
        cluster.role("shop_reader", "");
        cluster.run(database, """
                create schema s;
                create table s.guest (id int primary key, score int);
                insert into s.guest select i, i from generate_series(1, 1000) i;
                create table s.other (id int);
                create view s.shown as select g.id, g.score from s.guest g where g.score > 10;
                create materialized view s.kept as select count(*) as n from s.guest;
                create table s.trip (id int, day date) partition by range (day);
                create table s.trip_1 partition of s.trip for values from ('2026-01-01') to ('2026-02-01');
                create table s.trip_2 partition of s.trip for values from ('2026-02-01') to ('2026-03-01');
                create function s.hidden() returns setof int language plpgsql as
                  'begin return query select id from s.other; end';
                analyze;
                grant usage on schema s to shop_reader;
                grant select on all tables in schema s to shop_reader;
                """);
    }

    @AfterAll
    void drop() {
        cluster.drop(database);
    }

    private RowSource source() {
        return PostgresDialect.source(
                new DatabaseSettings(
                        "127.0.0.1",
                        cluster.port(),
                        database,
                        "shop_reader",
                        cluster.password(),
                        DatabaseSettings.Tls.OFF),
                new AddressGuard(List.of("127.0.0.1")));
    }

    private RowSource.Mark mark(String sql) {
        return source().mark(SourceQuery.text(sql), Optional.empty(), TIME);
    }

    private RowSource.Mark still(String sql) {
        return Awaited.value("the mark to stand still", () -> mark(sql), first -> {
            try {
                Thread.sleep(1_200);
            } catch (InterruptedException e) {
                throw new IllegalStateException(e);
            }
            return first.equals(mark(sql));
        });
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "select id, score from s.guest | update s.guest set score = score + 1 where id = 5",
                "select id, score from s.guest | insert into s.guest values (-1, 0)",
                "select id, score from s.guest | delete from s.guest where id = -1",
                "select id from s.shown | update s.guest set score = 3 where id = 700",
                "select id, day from s.trip | insert into s.trip values (1, '2026-02-03')",
                "select n from s.kept | refresh materialized view s.kept",
                "select id from s.guest where exists (select from s.other) | insert into s.other values (2)",
                "with o as (select id from s.other) select count(*) as n from o | insert into s.other values (3)",
                "select id from s.other, generate_series(1, 2) n | truncate s.other",
            })
    void whatIsWrittenIsNoticed(String query, String write) {
        RowSource.Mark before = still(query);
        assertThat(before.means()).isEqualTo(RowSource.Means.COUNTERS);
        cluster.run(database, write);
        Awaited.until("the mark to differ", () -> !mark(query).equals(before));
    }

    @Test
    void whatIsWrittenElsewhereIsNot() {
        RowSource.Mark before = still("select id from s.guest");
        cluster.run(database, "insert into s.other values (9)");
        RowSource.Mark other = still("select id from s.other");
        assertThat(other.text()).startsWith("s other ");
        assertThat(mark("select id from s.guest")).isEqualTo(before);
        source().preview(SourceQuery.text("select id from s.guest"), 10, TIME);
        assertThat(still("select id from s.guest")).as("reading is no change").isEqualTo(before);
    }

    @Test
    void aQueryThatReadsThroughAFunctionIsCountedInstead() {
        RowSource.Mark mark = mark("select hidden from s.hidden()");
        assertThat(mark.means()).isEqualTo(RowSource.Means.COUNT);
        assertThat(source().mark(SourceQuery.text("select hidden from s.hidden()"), Optional.of("hidden"), TIME)
                        .means())
                .isEqualTo(RowSource.Means.NEWEST_AND_COUNT);
    }
}

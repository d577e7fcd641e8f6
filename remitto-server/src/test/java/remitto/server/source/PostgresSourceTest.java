package remitto.server.source;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.postgres.PostgresDialect;
import remitto.connect.source.Reading;
import remitto.connect.source.RowFilter;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.connect.source.SourceQuery;
import remitto.server.harness.TestCluster;

@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class PostgresSourceTest extends RowSourceContract {
    private static final Duration TIME = Duration.ofSeconds(20);
    private static final String SCHEMA = "Quay side";

    private final TestCluster cluster = TestCluster.given();
    private final String database = "rows_" + ProcessHandle.current().pid();

    @BeforeAll
    void make() {
        cluster.make(database, "shop_owner");
        cluster.role("shop_reader", "");
    }

    @AfterAll
    void drop() {
        cluster.drop(database);
    }

    @Override
    String schema() {
        return SCHEMA;
    }

    @Override
    RowSource source(SourceTable... tables) {
        cluster.run(
                database,
                "drop schema if exists \"" + SCHEMA + "\" cascade; create schema \"" + SCHEMA
                        + "\"; grant usage on schema \"" + SCHEMA + "\" to shop_reader");
        for (SourceTable table : tables) {
            lay(table);
        }
        cluster.run(database, "grant select on all tables in schema \"" + SCHEMA + "\" to shop_reader");
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

    private static String quoted(String name) {
        return "\"" + name.replace("\"", "\"\"") + "\"";
    }

    private void lay(SourceTable table) {
        String name = quoted(SCHEMA) + "." + quoted(table.name());
        String columns = table.columns().stream()
                .map(column -> quoted(column.name()) + " " + sqlType(column.type()))
                .collect(Collectors.joining(", "));
        cluster.run(database, "create table " + name + " (" + columns + ")");
        String places = table.columns().stream().map(column -> "?").collect(Collectors.joining(", "));
        try (Connection connection = cluster.superuser(database);
                PreparedStatement insert =
                        connection.prepareStatement("insert into " + name + " values (" + places + ")")) {
            for (List<String> row : table.rows()) {
                for (int i = 0; i < row.size(); i++) {
                    insert.setObject(i + 1, row.get(i), Types.OTHER);
                }
                insert.addBatch();
            }
            insert.executeBatch();
        } catch (SQLException e) {
            throw new IllegalStateException(name, e);
        }
    }

    private static Reading own(String sql) {
        return Reading.all(SourceQuery.text(sql), List.of("n"), TIME);
    }

    /** What stands within other SQL is parsed by itself before, and none of it steps out of the brackets. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "select 1 as n) as x; commit; begin read write; create table gone (n int); select (select 1 as n",
                "select 1 as n) as dataset --",
                "select 1 as n union select 2) as dataset where (true",
                "insert into \"Quay side\".\"crew\" values (1) returning n",
                "with gone as (delete from \"Quay side\".\"crew\" returning n) select n from gone"
            })
    void noTextStepsOutOfItsBracketsAndNoneWrites(String sql) {
        SourceTable crew = SourceTable.of("crew", "n INTEGER").row("1");
        RowSource source = source(crew);
        RowFilter wrapped = new RowFilter.Containing(List.of("n"), "");
        assertThatThrownBy(() -> source.read(own(sql).only(wrapped), cells -> true))
                .isInstanceOf(SourceProblem.class);
        assertThatThrownBy(() -> source.read(own(sql), cells -> true)).isInstanceOf(SourceProblem.class);
        assertThat(cluster.text(database, "select count(*) from \"Quay side\".\"crew\""))
                .isEqualTo("1");
        assertThat(cluster.text(database, "select to_regclass('gone') is null")).isEqualTo("t");
    }

    @Test
    void aConditionOfATableIsOneCondition() {
        SourceTable crew = SourceTable.of("crew", "n INTEGER").row("1").row("2");
        RowSource source = source(crew);
        assertThat(source.preview(filtered("n > 1 -- and so on"), 9, TIME).rows())
                .containsExactly(List.of(Optional.of("2")));
        for (String filter : List.of("n > 1; delete from crew", "n > 1) or (true", "", "n > ")) {
            assertThatThrownBy(() -> source.preview(filtered(filter), 9, TIME))
                    .as(filter)
                    .isInstanceOf(SourceProblem.class);
        }
    }

    private static SourceQuery filtered(String filter) {
        return new SourceQuery.OfTable(SCHEMA, "crew", List.of("n"), Optional.of(filter));
    }

    @Test
    void aQuestionMarkOfAQueryIsNoPlaceForAnArgument() {
        RowSource source = source();
        Reading reading =
                own("select '{\"a\": 1}'::jsonb ? 'a' as n").only(new RowFilter.Containing(List.of("n"), "t"));
        List<String> cells = new ArrayList<>();
        source.read(reading, row -> cells.add(row[0]));
        assertThat(cells).containsExactly("t");
    }

    @Test
    void whatTakesTooLongIsStopped() {
        Reading slow = new Reading(
                SourceQuery.text("select 1 as n from pg_sleep(30)"),
                List.of("n"),
                RowFilter.ALL,
                0,
                Duration.ofMillis(300));
        assertThatThrownBy(() -> source().read(slow, cells -> true))
                .isInstanceOfSatisfying(SourceProblem.class, problem -> assertThat(problem.kind())
                        .isEqualTo(Kind.TOOK_TOO_LONG));
    }
}

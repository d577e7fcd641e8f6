package remitto.server.source;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.connect.database.CheckedTexts;
import remitto.connect.database.DatabaseConnections;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.database.DatabaseSource;
import remitto.connect.mariadb.MariaDialect;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.source.Preview;
import remitto.connect.source.Readers;
import remitto.connect.source.Reading;
import remitto.connect.source.RowFilter;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.connect.source.SourceQuery;
import remitto.connect.source.SourceReport;
import remitto.core.dataset.ColumnType;
import remitto.server.harness.TestMariaDb;

/** MariaDB by the contract of sources, and what only it does. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class MariaSourceTest extends RowSourceContract {
    private static final Duration TIME = Duration.ofSeconds(20);
    private static final String SCHEMA = "Quay side";
    private static final String READER = "shop_reader";

    private TestMariaDb server;
    private DatabaseConnections<DatabaseSettings> connections;

    @BeforeAll
    void start() {
        server = TestMariaDb.start();
        connections = DatabaseConnections.kept(MariaDialect.dialect());
    }

    @AfterAll
    void stop() {
        connections.close();
        server.close();
    }

    @AfterEach
    void forget() {
        server.run("drop database if exists `Quay side`");
    }

    @Override
    String schema() {
        return SCHEMA;
    }

    private static String quoted(String name) {
        return "`" + name.replace("`", "``") + "`";
    }

    @Override
    RowSource source(SourceTable... tables) {
        server.run("drop database if exists `Quay side`; create database `Quay side` character set utf8mb4");
        server.login(READER, "select, show view on `Quay side`.*");
        for (SourceTable table : tables) {
            lay(table);
        }
        return source(READER);
    }

    private RowSource source(String user) {
        return source(user, TestMariaDb.PASSWORD, new AddressGuard(List.of("127.0.0.1")), Readers.NOBODY);
    }

    private RowSource source(String user, String password, AddressGuard guard, Readers readers) {
        return new DatabaseSource<>(
                new DatabaseSettings("127.0.0.1", server.port(), SCHEMA, user, password, DatabaseSettings.Tls.OFF),
                new DatabaseSource.Tools<>(guard, connections, new CheckedTexts(), readers));
    }

    private static String sql(ColumnType type) {
        return switch (type) {
            case TEXT -> "varchar(200)";
            case INTEGER -> "bigint";
            case DECIMAL -> "decimal(20, 2)";
            case BOOLEAN -> "boolean";
            case DATE -> "date";
            case TIMESTAMP -> "datetime(6)";
        };
    }

    private void lay(SourceTable table) {
        String name = quoted(SCHEMA) + "." + quoted(table.name());
        String columns = table.columns().stream()
                .map(column -> quoted(column.name()) + " " + sql(column.type()))
                .collect(Collectors.joining(", "));
        server.run("create table " + name + " (" + columns + ")");
        String places = table.columns().stream().map(column -> "?").collect(Collectors.joining(", "));
        try (Connection connection = server.root("mysql");
                PreparedStatement insert =
                        connection.prepareStatement("insert into " + name + " values (" + places + ")")) {
            for (List<String> row : table.rows()) {
                for (int i = 0; i < row.size(); i++) {
                    String laid = row.get(i);
                    insert.setString(
                            i + 1,
                            laid == null ? null : spelled(table.columns().get(i).type(), laid));
                }
                insert.executeUpdate();
            }
        } catch (SQLException e) {
            throw new IllegalStateException(name, e);
        }
    }

    /** Decimals with the digits of their column, moments without a zone. */
    @Override
    String spelled(ColumnType type, String laid) {
        return switch (type) {
            case BOOLEAN -> laid.equals("t") ? "1" : "0";
            case TIMESTAMP -> laid.replace("+00", "") + (laid.contains(".") ? "" : ".000000");
            case DECIMAL -> new BigDecimal(laid).setScale(2).toPlainString();
            default -> laid;
        };
    }

    private static List<String> cells(RowSource source, String sql) {
        List<String> cells = new ArrayList<>();
        source.read(Reading.all(SourceQuery.text(sql), List.of("n"), TIME), row -> cells.add(row[0]));
        return cells;
    }

    private String told(String sql) {
        try (Connection connection = server.root("mysql");
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(sql)) {
            return rows.next() ? String.valueOf(rows.getString(1)) : "";
        } catch (SQLException e) {
            throw new IllegalStateException(sql, e);
        }
    }

    /** What stands within other SQL is parsed by itself before, and none of it steps out of the brackets. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "select 1 as n) as x; drop table `Quay side`.crew; select (select 1 as n",
                "select 1 as n) as dataset #",
                "select 1 as n union select 2) as dataset where (true",
                "select '\\' as n) as dataset where (true or '1' = ' -- ') -- '",
                "insert into `Quay side`.crew values (1) returning n",
                "select n from `Quay side`.crew into outfile '/tmp/remitto-outfile'",
                "select n into @x from `Quay side`.crew",
                "select /*! 1 as n from dual union select */ 2 as n",
                "set statement max_statement_time = 0 for select 1 as n",
                "call `Quay side`.p()",
                "select nextval(`Quay side`.tickets) as n",
                "select `Quay side`.takes_one() as n"
            })
    void noTextStepsOutOfItsBracketsAndNoneWrites(String sql) {
        SourceTable crew = SourceTable.of("crew", "n INTEGER").row("1");
        RowSource source = source(crew);
        server.run("create sequence `Quay side`.tickets");
        server.run("create function `Quay side`.takes_one() returns int modifies sql data"
                + " begin delete from `Quay side`.crew; return 1; end");
        // Even a login that may do more than read does not, since it reads within a read-only transaction.
        server.login(READER, "all on `Quay side`.*");
        RowFilter wrapped = new RowFilter.Containing(List.of("n"), "");
        Reading own = Reading.all(SourceQuery.text(sql), List.of("n"), TIME);
        assertThatThrownBy(() -> source.read(own.only(wrapped), cells -> true)).isInstanceOf(SourceProblem.class);
        assertThatThrownBy(() -> source.read(own, cells -> true)).isInstanceOf(SourceProblem.class);
        assertThat(told("select count(*) from `Quay side`.crew")).isEqualTo("1");
        assertThat(told("select next_not_cached_value from `Quay side`.tickets"))
                .isEqualTo("1");
    }

    @Test
    void aConditionOfATableIsOneCondition() {
        SourceTable crew = SourceTable.of("crew", "n INTEGER").row("1").row("2");
        RowSource source = source(crew);
        assertThat(source.preview(filtered("n > 1 # and so on"), 9, TIME).rows())
                .containsExactly(List.of(Optional.of("2")));
        assertThat(source.preview(filtered("n > 1--1"), 9, TIME).rows()).isEmpty();
        for (String filter : List.of("n > 1; delete from crew", "n > 1) or (true", "", "n > ", "n = `1")) {
            assertThatThrownBy(() -> source.preview(filtered(filter), 9, TIME))
                    .as(filter)
                    .isInstanceOf(SourceProblem.class);
        }
    }

    private static SourceQuery filtered(String filter) {
        return new SourceQuery.OfTable(SCHEMA, "crew", List.of("n"), Optional.of(filter));
    }

    /** Its collations take these for the same; keys and look-ups do not. */
    @Test
    void textsAreTheSameOnlyIfEveryCharacterIs() {
        SourceTable crew = SourceTable.of("crew", "name TEXT", "n INTEGER")
                .row("Åsa", "1")
                .row("åsa", "2")
                .row("Asa", "3")
                .row("Asa ", "4")
                .row("Asa", "5");
        RowSource source = source(crew);
        RowSource.KeyFindings found = source.checkKey(crew.query(SCHEMA), List.of("name"), 9, TIME);
        assertThat(found.doubled()).isEqualTo(1);
        assertThat(found.examples()).containsExactly(List.of("Asa"));
        assertThat(source.words(crew.query(SCHEMA), "name", 9, TIME))
                .extracting(RowSource.Word::text)
                .containsExactly("Asa", "Asa ", "Åsa", "åsa");
        RowFilter keys = new RowFilter.OfKeys(List.of(crew.columns().get(0)), List.of(List.of("asa"), List.of("Asa ")));
        List<String> rows = new ArrayList<>();
        source.read(Reading.all(crew.query(SCHEMA), List.of("n"), TIME).only(keys), row -> rows.add(row[0]));
        assertThat(rows).containsExactly("4");
    }

    /** Names of types after the MariaDB documentation, "Data Types". */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "tinyint           | -128                       | INTEGER   | -128",
                "boolean           | 1                          | BOOLEAN   | 1",
                "int unsigned      | 4294967295                 | INTEGER   | 4294967295",
                "bigint unsigned   | 18446744073709551615       | INTEGER   | 18446744073709551615",
                "decimal(38,10)    | 1234567890123456789.12     | DECIMAL   | 1234567890123456789.1200000000",
                "double            | 0.1                        | DECIMAL   | 0.1",
                "year              | 2026                       | INTEGER   | 2026",
                "date              | 2024-02-29                 | DATE      | 2024-02-29",
                "datetime          | 2026-03-29 02:30:00        | TIMESTAMP | 2026-03-29 02:30:00",
                "datetime(3)       | 2026-03-29 02:30:00.120    | TIMESTAMP | 2026-03-29 02:30:00.120",
                "time              | 26:00:01                   | TEXT      | 26:00:01",
                "char(4)           | ab                         | TEXT      | ab",
                "json              | {\"a\": 1}               | TEXT      | {\"a\": 1}",
                "enum('a','b')     | b                          | TEXT      | b",
                "uuid              | 123e4567-e89b-12d3-a456-426655440000 | TEXT | 123e4567-e89b-12d3-a456-426655440000",
                "inet6             | ::1                        | TEXT      | ::1",
                "mediumtext        | Ærø 🛳                      | TEXT      | Ærø 🛳",
            })
    void everyTypeComesAsTheServerWritesIt(String type, String value, ColumnType told, String read) {
        RowSource source = source();
        server.run("create table `Quay side`.typed (n " + type + ") character set utf8mb4; set names utf8mb4;"
                + " insert into `Quay side`.typed values ('" + value + "'), (null)");
        SourceQuery query = new SourceQuery.OfTable(SCHEMA, "typed", List.of("n"), Optional.empty());
        assertThat(source.describe(query, TIME))
                .extracting(Preview.PreviewColumn::type)
                .containsExactly(told);
        assertThat(cells(source, "select n from `Quay side`.typed order by n is null"))
                .containsExactly(read, null);
    }

    @Test
    void momentsOfTheServersOwnZoneComeInUtc() {
        RowSource source = source();
        server.run("set time_zone = '+05:00'; create table `Quay side`.seen (n timestamp(3));"
                + " insert into `Quay side`.seen values ('2026-07-01 12:00:00')");
        assertThat(cells(source, "select n from `Quay side`.seen")).containsExactly("2026-07-01 07:00:00.000");
    }

    @Test
    void whatTakesTooLongIsStopped() {
        Reading slow = new Reading(
                SourceQuery.text("select sleep(30) as n"), List.of("n"), RowFilter.ALL, 0, Duration.ofMillis(300));
        assertThatThrownBy(() -> source().read(slow, cells -> true))
                .isInstanceOfSatisfying(SourceProblem.class, problem -> assertThat(problem.kind())
                        .isEqualTo(Kind.TOOK_TOO_LONG));
    }

    @Test
    void aReadingIsEndedFromOutside() {
        source();
        List<Runnable> cancels = new ArrayList<>();
        RowSource source = source(READER, TestMariaDb.PASSWORD, new AddressGuard(List.of("127.0.0.1")), cancel -> {
            cancels.add(cancel);
            return () -> {};
        });
        long begun = System.nanoTime();
        assertThatThrownBy(() -> source.read(
                        Reading.all(
                                SourceQuery.text("select a.n from (select 1 as n union select 2) as a,"
                                        + " seq_1_to_1000000 as b, seq_1_to_100000 as c"),
                                List.of("n"),
                                TIME),
                        row -> {
                            if (cancels.size() == 1) {
                                cancels.remove(0).run();
                            }
                            return true;
                        }))
                .isInstanceOf(SourceProblem.class);
        assertThat(Duration.ofNanos(System.nanoTime() - begun)).isLessThan(TIME);
    }

    @Test
    void nothingOfOneReadingIsLeftToTheNext() {
        RowSource source = source();
        assertThat(cells(source, "select @left := 7 as n")).containsExactly("7");
        assertThat(cells(source, "select get_lock('quay', 0) as n")).containsExactly("1");
        assertThat(cells(source, "select @left as n")).containsOnlyNulls();
        assertThat(told("select is_free_lock('quay')")).isEqualTo("1");
    }

    @Test
    void aReportTellsWhatMayBeReadAndWhatMayBeDoneBeyond() {
        source(SourceTable.of("crew", "n INTEGER", "name TEXT").row("1", "Ada"));
        SourceReport plain = source(READER).check();
        assertThat(plain.server()).startsWith("MariaDB 10.");
        assertThat(plain.user()).isEqualTo(READER + "@%");
        assertThat(plain.encrypted()).isFalse();
        assertThat(plain.warnings()).isEmpty();
        assertThat(plain.schemas()).extracting(SourceReport.Schema::name).containsExactly(SCHEMA);
        SourceReport.Table table = plain.schemas().get(0).tables().get(0);
        assertThat(table.readable()).isTrue();
        assertThat(table.columns()).extracting(SourceReport.TableColumn::name).containsExactly("n", "name");
        assertThat(plain.grants())
                .containsExactly(
                        "create user 'shop_reader'@'%' identified by '...';",
                        "grant select, show view on `Quay side`.* to 'shop_reader'@'%';");

        server.login("some_reader", "select (n) on `Quay side`.crew");
        assertThat(source("some_reader")
                        .check()
                        .schemas()
                        .get(0)
                        .tables()
                        .get(0)
                        .columns())
                .as("those that it may see")
                .extracting(SourceReport.TableColumn::name)
                .containsExactly("n");

        server.login("writer", "select, insert, delete on `Quay side`.*", "process on *.*");
        assertThat(source("writer").check().warnings())
                .contains(
                        "may write to Quay side.crew",
                        "has the rights DELETE, INSERT on database Quay side",
                        "has the right PROCESS on the whole server");
    }

    /** A login made by the statements that a report shows can read, and do nothing else. */
    @Test
    void theStatementsOfAReportMakeALoginThatReads() {
        source(SourceTable.of("crew", "n INTEGER").row("1"));
        server.run("drop user shop_reader");
        server.login("other", "select on `Quay side`.*");
        List<String> grants = source("other").check().grants();
        server.run("drop user if exists other");
        grants.forEach(
                grant -> server.run(grant.replace("'...'", "'" + TestMariaDb.PASSWORD.replace("'", "''") + "'")));
        assertThat(source("other").check().warnings()).isEmpty();
        assertThat(cells(source("other"), "select n from crew")).containsExactly("1");
    }

    @Test
    void aLoginThatStandsAboveReadingIsRefused() {
        source();
        server.login("filer", "file on *.*", "select on `Quay side`.*");
        assertProblem(() -> source("filer").check(), Kind.LOGIN_REFUSED, "has the right FILE");
    }

    private static void assertProblem(Runnable work, Kind kind, String words) {
        assertThatThrownBy(work::run).isInstanceOfSatisfying(SourceProblem.class, problem -> {
            assertThat(problem.kind()).as(problem.getMessage()).isEqualTo(kind);
            assertThat(problem.getMessage())
                    .as(problem.withServersWords() + problem.getCause())
                    .contains(words);
        });
    }

    @Test
    void whatGoesWrongIsSaidInWords() {
        source(SourceTable.of("crew", "n INTEGER").row("1"));
        AddressGuard local = new AddressGuard(List.of("127.0.0.1"));
        assertProblem(() -> source(READER, "wrong", local, Readers.NOBODY).check(), Kind.SIGN_IN_REFUSED, READER);
        assertProblem(
                () -> source(READER, TestMariaDb.PASSWORD, new AddressGuard(List.of()), Readers.NOBODY)
                        .check(),
                Kind.ADDRESS_REFUSED,
                "not allowed");
        RowSource source = source(READER);
        assertProblem(() -> cells(source, "select n from crews"), Kind.SQL_FAULT, "crews");
        assertProblem(() -> cells(source, "select user as n from mysql.global_priv"), Kind.NOT_PERMITTED, READER);
        assertProblem(() -> cells(source, "select 1 as m"), Kind.COLUMN_GONE, "called n");
        assertProblem(
                () -> cells(source, "select cast(concat('x', n) as decimal) / 0 as m, n from crew where n = ?"),
                Kind.SQL_FAULT,
                "question mark");
        RowSource nobody = new DatabaseSource<>(
                new DatabaseSettings("127.0.0.1", 1, SCHEMA, READER, "x", DatabaseSettings.Tls.OFF),
                new DatabaseSource.Tools<>(local, connections, new CheckedTexts(), Readers.NOBODY));
        assertProblem(nobody::check, Kind.UNREACHABLE, "127.0.0.1:1");
    }

    @Test
    void aConnectionIsEncryptedWhereThatIsAskedForAndItsServerIsWhoItShouldBe() {
        source(SourceTable.of("crew", "n INTEGER").row("1"));
        assertThat(over(DatabaseSettings.Tls.REQUIRED).check().encrypted()).isTrue();
        assertThat(cells(over(DatabaseSettings.Tls.REQUIRED), "select n from crew"))
                .containsExactly("1");
        assertThat(over(DatabaseSettings.Tls.OFF).check().encrypted()).isFalse();
        assertProblem(() -> over(DatabaseSettings.Tls.VERIFIED).check(), Kind.UNREACHABLE, "certificate");
    }

    private RowSource over(DatabaseSettings.Tls tls) {
        return new DatabaseSource<>(
                new DatabaseSettings("127.0.0.1", server.port(), SCHEMA, READER, TestMariaDb.PASSWORD, tls),
                new DatabaseSource.Tools<>(
                        new AddressGuard(List.of("127.0.0.1")), connections, new CheckedTexts(), Readers.NOBODY));
    }

    /** Whoever only answers at an address is not told the password in clear text. */
    @Test
    void aServerThatAsksForThePasswordInClearTextIsNotToldIt() {
        source(SourceTable.of("crew", "n INTEGER").row("1"));
        server.run("install soname 'auth_pam'");
        server.run("create or replace user 'open_reader'@'%' identified via pam");
        assertProblem(
                () -> source("open_reader").check(), Kind.SIGN_IN_REFUSED, "in a way that shows it to whoever answers");
        server.run("drop user 'open_reader'@'%'; uninstall soname 'auth_pam'");
    }

    @Test
    void rowsThatWouldFillTheMemoryEndTheirQueryWithWords() {
        RowSource source = source();
        String cell = "repeat('x', 9000000)";
        SourceQuery wide = SourceQuery.text("select " + String.join(", ", java.util.Collections.nCopies(8, cell)));
        assertProblem(() -> source.preview(wide, 5, TIME), Kind.ROWS_TOO_LARGE, "Leave large columns out");
        SourceQuery high = SourceQuery.text("select " + cell + " as n from seq_1_to_8");
        assertProblem(() -> source.preview(high, 20, TIME), Kind.ROWS_TOO_LARGE, "Leave large columns out");
        List<Integer> lengths = new ArrayList<>();
        source.read(
                Reading.all(high, List.of("n"), TIME),
                row -> lengths.add(String.valueOf(row[0]).length()));
        assertThat(lengths).as("one after the other they fit").hasSize(8).containsOnly(9_000_000);
    }

    /** A million rows pass by; they are not gathered first. */
    @Test
    void rowsComeOneAfterTheOther() {
        RowSource source = source();
        long[] seen = new long[1];
        source.read(
                Reading.all(
                        SourceQuery.text("select repeat('x', 2000) as n from seq_1_to_1000000"),
                        List.of("n"),
                        Duration.ofMinutes(2)),
                row -> {
                    seen[0]++;
                    return seen[0] < 300_000;
                });
        assertThat(seen[0]).isEqualTo(300_000);
    }
}

package remitto.server.source;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.math.BigDecimal;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import java.util.stream.Collectors;
import org.h2.tools.Server;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.connect.database.CheckedTexts;
import remitto.connect.database.DatabaseConnections;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.database.DatabaseSource;
import remitto.connect.declared.DeclaredDialect;
import remitto.connect.declared.DeclaredDialects;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.source.Readers;
import remitto.connect.source.Reading;
import remitto.connect.source.RowFilter;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.connect.source.SourceQuery;
import remitto.core.dataset.ColumnType;

/** A database that no dialect of ours is for, read by one that is written as data. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class DeclaredSourceTest extends RowSourceContract {
    private static final Duration TIME = Duration.ofSeconds(20);
    private static final String SCHEMA = "Quay side";
    private static final String PASSWORD = "harbour master";

    @TempDir
    static Path folder;

    private Server server;
    private DeclaredDialect dialect;
    private DatabaseConnections<DatabaseSettings> connections;

    @BeforeAll
    void start() throws SQLException, IOException, URISyntaxException {
        server = Server.createTcpServer(
                        "-tcpPort",
                        "0",
                        "-ifNotExists",
                        "-baseDir",
                        folder.resolve("data").toString())
                .start();
        Path jar = Path.of(org.h2.Driver.class
                .getProtectionDomain()
                .getCodeSource()
                .getLocation()
                .toURI());
        Path dialects = Files.createDirectory(folder.resolve("dialects"));
        Files.copy(jar, dialects.resolve("driver.jar"));
        Files.copy(Path.of("..", "docs", "dialects", "h2.yaml"), dialects.resolve("h2.yaml"));
        DeclaredDialects.Found found = DeclaredDialects.in(dialects);
        assertThat(found.problems()).isEmpty();
        dialect = found.dialects().get(0);
        connections = DatabaseConnections.kept(dialect.dialect());
        run("create user \"SHOP_READER\" password '" + PASSWORD + "'");
    }

    @AfterAll
    void stop() {
        connections.close();
        server.stop();
    }

    private Connection owner() throws SQLException {
        return DriverManager.getConnection(
                "jdbc:h2:tcp://127.0.0.1:" + server.getPort() + "/rows;DB_CLOSE_DELAY=-1", "OWNER", "x");
    }

    private void run(String sql) {
        try (Connection connection = owner();
                Statement statement = connection.createStatement()) {
            statement.execute(sql);
        } catch (SQLException e) {
            throw new IllegalStateException(sql, e);
        }
    }

    @Override
    String schema() {
        return SCHEMA;
    }

    @Override
    RowSource source(SourceTable... tables) {
        run("drop schema if exists \"Quay side\" cascade");
        run("create schema \"Quay side\"");
        for (SourceTable table : tables) {
            lay(table);
        }
        run("grant select on schema \"Quay side\" to \"SHOP_READER\"");
        return source("SHOP_READER", PASSWORD, new AddressGuard(List.of("127.0.0.1")));
    }

    private RowSource source(String user, String password, AddressGuard guard) {
        return source(
                new DatabaseSettings("127.0.0.1", server.getPort(), "rows", user, password, DatabaseSettings.Tls.OFF),
                guard);
    }

    private RowSource source(DatabaseSettings settings, AddressGuard guard) {
        return new DatabaseSource<>(
                settings, new DatabaseSource.Tools<>(guard, connections, new CheckedTexts(), Readers.NOBODY));
    }

    @Override
    String spelled(ColumnType type, String laid) {
        return switch (type) {
            case BOOLEAN -> laid.equals("t") ? "TRUE" : "FALSE";
            case DECIMAL -> new BigDecimal(laid).setScale(2).toPlainString();
            default -> laid;
        };
    }

    private static String sql(ColumnType type) {
        return switch (type) {
            case TEXT -> "varchar";
            case INTEGER -> "bigint";
            case DECIMAL -> "decimal(20, 2)";
            case BOOLEAN -> "boolean";
            case DATE -> "date";
            case TIMESTAMP -> "timestamp(6) with time zone";
        };
    }

    private static String quoted(String name) {
        return "\"" + name.replace("\"", "\"\"") + "\"";
    }

    private void lay(SourceTable table) {
        String name = quoted(SCHEMA) + "." + quoted(table.name());
        run("create table " + name + " ("
                + table.columns().stream()
                        .map(column -> quoted(column.name()) + " " + sql(column.type()))
                        .collect(Collectors.joining(", "))
                + ")");
        String places = table.columns().stream().map(column -> "?").collect(Collectors.joining(", "));
        try (Connection connection = owner();
                PreparedStatement insert =
                        connection.prepareStatement("insert into " + name + " values (" + places + ")")) {
            for (List<String> row : table.rows()) {
                for (int i = 0; i < row.size(); i++) {
                    insert.setString(i + 1, row.get(i));
                }
                insert.executeUpdate();
            }
        } catch (SQLException e) {
            throw new IllegalStateException(name, e);
        }
    }

    private static void assertProblem(Runnable work, Kind kind, String words) {
        assertThatThrownBy(work::run).isInstanceOfSatisfying(SourceProblem.class, problem -> {
            assertThat(problem.kind()).as(problem.getMessage()).isEqualTo(kind);
            assertThat(problem.getMessage()).contains(words);
        });
    }

    @Test
    void whatGoesWrongIsSaidInWords() {
        RowSource source = source(SourceTable.of("crew", "n INTEGER").row("1"));
        AddressGuard local = new AddressGuard(List.of("127.0.0.1"));
        assertProblem(() -> source("SHOP_READER", "wrong", local).check(), Kind.SIGN_IN_REFUSED, "SHOP_READER");
        assertProblem(
                () -> source("SHOP_READER", PASSWORD, new AddressGuard(List.of()))
                        .check(),
                Kind.ADDRESS_REFUSED,
                "not allowed");
        assertProblem(
                () -> source(
                                new DatabaseSettings(
                                        "127.0.0.1",
                                        server.getPort(),
                                        "rows;INIT=drop all objects",
                                        "SHOP_READER",
                                        PASSWORD,
                                        DatabaseSettings.Tls.OFF),
                                local)
                        .check(),
                Kind.NOT_OFFERED,
                "name of the database");
        assertProblem(
                () -> source(
                                new DatabaseSettings(
                                        "127.0.0.1",
                                        server.getPort(),
                                        "rows",
                                        "SHOP_READER",
                                        PASSWORD,
                                        DatabaseSettings.Tls.VERIFIED),
                                local)
                        .check(),
                Kind.NOT_OFFERED,
                "declares no connection with TLS verified");
        run("create table secret (n int)");
        Reading notGiven = Reading.all(SourceQuery.text("select n from public.secret"), List.of("N"), TIME);
        assertProblem(() -> source.read(notGiven, cells -> true), Kind.NOT_PERMITTED, "SHOP_READER");
        run("drop table secret");
        Reading slow = Reading.all(
                SourceQuery.text(
                        "select count(*) as n from system_range(1, 100000) as a, system_range(1, 100000) as b"),
                List.of("N"),
                Duration.ofSeconds(1));
        assertProblem(() -> source.read(slow, cells -> true), Kind.TOOK_TOO_LONG, "1 s");
    }

    @Test
    void nothingThatWouldWriteIsRun() {
        SourceTable crew = SourceTable.of("crew", "n INTEGER").row("1");
        RowSource source = source(crew);
        run("alter user \"SHOP_READER\" admin true");
        RowFilter wrapped = new RowFilter.Containing(List.of("n"), "");
        for (String sql : List.of(
                "delete from \"Quay side\".\"crew\"",
                "select 1 as \"n\"; delete from \"Quay side\".\"crew\"",
                "select 1 as \"n\") as x; delete from \"Quay side\".\"crew\"; select (select 1 as \"n\"")) {
            Reading own = Reading.all(SourceQuery.text(sql), List.of("n"), TIME);
            assertThatThrownBy(() -> source.read(own, cells -> true)).isInstanceOf(SourceProblem.class);
            assertThatThrownBy(() -> source.read(own.only(wrapped), cells -> true))
                    .isInstanceOf(SourceProblem.class);
        }
        run("alter user \"SHOP_READER\" admin false");
        assertThat(source.probe(crew.query(SCHEMA), java.util.Optional.empty(), TIME)
                        .rows())
                .isEqualTo(1);
    }

    @Test
    void aReadingIsEndedFromOutside() {
        source(SourceTable.of("crew", "n INTEGER").row("1"));
        RowSource source = new DatabaseSource<>(
                new DatabaseSettings(
                        "127.0.0.1", server.getPort(), "rows", "SHOP_READER", PASSWORD, DatabaseSettings.Tls.OFF),
                new DatabaseSource.Tools<>(
                        new AddressGuard(List.of("127.0.0.1")), connections, new CheckedTexts(), cancel -> {
                            java.util.concurrent.CompletableFuture.runAsync(
                                    cancel,
                                    java.util.concurrent.CompletableFuture.delayedExecutor(
                                            1, java.util.concurrent.TimeUnit.SECONDS));
                            return () -> {};
                        }));
        Reading slow = Reading.all(
                SourceQuery.text(
                        "select count(*) as n from system_range(1, 1000000) as a, system_range(1, 1000000) as b"),
                List.of("N"),
                Duration.ofMinutes(2));
        long begun = System.nanoTime();
        assertThatThrownBy(() -> source.read(slow, cells -> true)).isInstanceOf(SourceProblem.class);
        assertThat(Duration.ofNanos(System.nanoTime() - begun)).isLessThan(Duration.ofMinutes(1));
    }

    /** The folder no longer declares what a source was connected by. */
    @Test
    void aDialectThatIsGoneIsAProblemOfItsSourceAlone() {
        Dialects dialects = new Dialects("");
        DatabaseAddress address = new DatabaseAddress(
                "127.0.0.1", 900, "rows", "reader", DatabaseSettings.Tls.OFF, java.util.Optional.of("gone"));
        assertProblem(
                () -> dialects.open(address, "x", new AddressGuard(List.of()), Readers.NOBODY),
                Kind.NOT_OFFERED,
                "No dialect is called gone; there are postgresql, mariadb.");
        assertProblem(() -> dialects.check(address, SourceQuery.text("select 1")), Kind.NOT_OFFERED, "gone");
        dialects.close();
    }

    /** Nothing is known of rights, so that nobody reads by it until an administrator has said that it may be used. */
    @Test
    void aReportSaysThatRightsCannotBeLookedAt() {
        assertThat(source(SourceTable.of("crew", "n INTEGER")).check().warnings())
                .singleElement()
                .asString()
                .contains("rights cannot be looked at");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "name: h2                      | port is missing",
                "'{name: h2, port: 1}'         | driver is missing",
                "'{name: H 2, port: 1}'        | small letters",
                "port: 1                       | name is missing",
                "nam: h2                       | nam",
                "'name: [h2'                   | line",
                "'{name: a, port: 1, driver: {class: org.h2.Driver, address: {}}}' | off, required and verified",
                "'{name: a, port: 1, driver: {class: no.Such, address: {off: x}}}' | no.Such is in none",
                "'{name: a, port: 0, driver: {class: no.Such, address: {off: x}}}' | port",
                "'{name: a, port: 1, driver: {class: java.util.ArrayList, address: {off: x}}}' | no JDBC driver",
                "'{name: a, port: 1, driver: {class: org.h2.Driver, jars: [../driver.jar], address: {off: x}}}' | names files beside",
                "'{name: a, port: 1, driver: {class: org.h2.Driver, jars: [gone.jar], address: {off: x}}}' | gone.jar is not",
                "'{name: a, port: 1, spelling: {name_quote: abc}, driver: {class: org.h2.Driver, address: {off: x}}}' | one character",
            })
    void aDeclarationThatCannotBeUsedSaysWhyAndKeepsNoOtherFromBeingUsed(String text, String words, @TempDir Path here)
            throws IOException {
        Files.writeString(here.resolve("broken.yaml"), text);
        Files.copy(folder.resolve("dialects/driver.jar"), here.resolve("driver.jar"));
        Files.copy(folder.resolve("dialects/h2.yaml"), here.resolve("good.yaml"));
        DeclaredDialects.Found found = DeclaredDialects.in(here);
        assertThat(found.problems())
                .singleElement()
                .asString()
                .startsWith("broken.yaml: ")
                .contains(words)
                .doesNotContain("Declaration");
        assertThat(found.dialects()).extracting(DeclaredDialect::name).containsExactly("h2");
    }

    @Test
    void aFolderThatIsNotThereHoldsNothing() {
        assertThat(DeclaredDialects.in(folder.resolve("nowhere")))
                .isEqualTo(new DeclaredDialects.Found(List.of(), List.of()));
    }
}

package remitto.e2e;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import remitto.demo.Databases;

/**
 * What several tests begin in. It is set up once, and its databases are copied for each of them: to set it up takes longer
 * than most of the tests. One test at a time may stand in it.
 *
 * @param <T> what a test needs to know of it
 */
final class World<T> {
    /** It is set up so long before tests begin, so that all that was done is past. */
    private static final Duration BEFORE = Duration.ofMinutes(5);

    private final int people;
    private final Optional<Instant> begins;
    private final SetUp<T> setUp;
    private Optional<Kept<T>> kept = Optional.empty();

    /** @param begins what the server's clock says when tests begin; empty for the time that it is */
    World(int people, Optional<Instant> begins, SetUp<T> setUp) {
        this.people = people;
        this.begins = begins;
        this.setUp = setUp;
    }

    /** Sets it up on a stack where nothing is set up yet. */
    interface SetUp<T> {
        T on(Stack stack) throws Exception;
    }

    record Begun<T>(Stack stack, T known) {}

    private record Kept<T>(Berth berth, T known) {}

    Begun<T> begin() throws Exception {
        if (kept.isEmpty()) {
            kept = Optional.of(make());
        }
        Berth berth = kept.get().berth().again();
        Databases databases = Stack.databases();
        copy(databases, berth.remitto(), "remitto");
        copy(databases, berth.warehouse(), "halvorn_owner");
        return new Begun<>(Stack.start(databases, berth, begins), kept.get().known());
    }

    private Kept<T> make() throws Exception {
        Berth berth = Berth.free();
        Databases databases = Stack.databases();
        Stack.load(databases, berth, people);
        T known;
        try (Stack stack = Stack.start(databases, berth, begins.map(at -> at.minus(BEFORE)))) {
            known = setUp.on(stack);
            stack.leave();
            for (String database : berth.databases()) {
                execute(databases, "alter database " + database + " rename to " + template(database));
            }
        }
        Runtime.getRuntime().addShutdownHook(new Thread(() -> forget(databases, berth.databases())));
        return new Kept<>(berth, known);
    }

    private static void copy(Databases databases, String database, String owner) throws SQLException {
        execute(databases, "create database " + database + " template " + template(database) + " owner " + owner);
    }

    private static String template(String database) {
        return database + "_template";
    }

    private static void forget(Databases databases, List<String> names) {
        for (String database : names) {
            try {
                execute(databases, "drop database if exists " + template(database));
            } catch (SQLException e) {
                System.err.println(template(database) + " is left over: " + e.getMessage());
            }
        }
    }

    private static void execute(Databases databases, String sql) throws SQLException {
        try (Connection connection = databases.owner("postgres");
                Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }
}

package remitto.server.harness;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Optional;

/** The PostgreSQL server that tests run on. */
public final class TestCluster {
    private final String url;
    private final String password;

    private TestCluster(String url, String password) {
        this.url = url;
        this.password = password;
    }

    public static TestCluster given() {
        String url = Optional.ofNullable(System.getenv("REMITTO_TEST_PG_URL"))
                .orElseThrow(
                        () -> new IllegalStateException("run the tests with ./remitto test, which starts PostgreSQL"));
        return new TestCluster(url, System.getenv("REMITTO_TEST_PG_PASSWORD"));
    }

    public Connection superuser(String database) throws SQLException {
        return DriverManager.getConnection(url(database), "postgres", password);
    }

    public String url(String database) {
        return url + "/" + database;
    }

    public String password() {
        return password;
    }

    public int port() {
        return Integer.parseInt(url.replaceAll(".*:(\\d+)$", "$1"));
    }

    /** Makes an empty database and the role that owns it. */
    public void make(String database, String owner) {
        role(owner, "");
        run("postgres", "drop database if exists " + database + " with (force)");
        run("postgres", "create database " + database + " owner " + owner);
    }

    /** Makes a database that is like another, which nobody may be connected to meanwhile. */
    public void copy(String template, String database, String owner) {
        run("postgres", "drop database if exists " + database + " with (force)");
        run("postgres", "create database " + database + " template " + template + " owner " + owner);
    }

    /** A login with the cluster's password. @param attributes such as {@code createrole} */
    public void role(String name, String attributes) {
        // Roles are the cluster's, and other tests set the same ones up at the same time.
        run(
                "postgres",
                "select pg_advisory_xact_lock(7346021559); do $$ begin if not exists (select from pg_roles where rolname = '"
                        + name + "') then create role " + name + " login; end if; end $$; alter role " + name
                        + " login password '" + password + "' " + attributes);
    }

    public void drop(String database) {
        run("postgres", "drop database if exists " + database + " with (force)");
    }

    public void run(String database, String sql) {
        try (Connection connection = superuser(database);
                Statement statement = connection.createStatement()) {
            statement.execute(sql);
        } catch (SQLException e) {
            throw new IllegalStateException(sql, e);
        }
    }

    /** The first cell of a query's first row; blank when there is none. */
    public String text(String database, String sql) {
        try (Connection connection = superuser(database);
                Statement statement = connection.createStatement();
                var rows = statement.executeQuery(sql)) {
            return rows.next() ? String.valueOf(rows.getString(1)) : "";
        } catch (SQLException e) {
            throw new IllegalStateException(sql, e);
        }
    }
}

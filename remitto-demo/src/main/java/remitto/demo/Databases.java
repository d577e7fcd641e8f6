package remitto.demo;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;

/** Databases of the demo on one private cluster: Remitto's own, and the warehouse with its read-only login. */
public final class Databases {
    public static final String READER = "halvorn_reader";
    public static final String PEOPLE_READER = "remitto_people";
    public static final String WRITER = "halvorn_writer";
    public static final String WRITER_PASSWORD = "breakwater-2207";
    public static final String READER_PASSWORD = "lighthouse-4410";

    /** Lock that whoever sets roles up takes. */
    public static final long ROLES = 7_346_021_559L;

    private final String clusterUrl;
    private final String password;

    /** @param clusterUrl JDBC address of the cluster without a database */
    public Databases(String clusterUrl, String password) {
        this.clusterUrl = clusterUrl;
        this.password = password;
    }

    public Connection owner(String database) throws SQLException {
        return DriverManager.getConnection(clusterUrl + "/" + database, "postgres", password);
    }

    /**
     * Roles are the cluster's: two programs that set one up at the same time would be in each other's way (in PostgreSQL, "tuple
     * concurrently updated"). Held until it is closed; locks are a database's, so all take it in the same one.
     */
    private Connection rolesLocked() throws SQLException {
        Connection connection = owner("postgres");
        try (Statement statement = connection.createStatement()) {
            statement.execute("select pg_advisory_lock(" + ROLES + ")");
        }
        return connection;
    }

    /** Makes an empty database, in place of any of that name. */
    public void fresh(String database, String owner) throws SQLException {
        try (Connection connection = rolesLocked();
                Statement statement = connection.createStatement()) {
            statement.execute("drop database if exists " + database + " with (force)");
            statement.execute("do $$ begin if not exists (select from pg_roles where rolname = '" + owner + "') then"
                    + " create role " + owner + " login; end if; end $$");
            statement.execute("alter role " + owner + " password '" + password + "'");
            statement.execute("create database " + database + " owner " + owner);
        }
    }

    /** Lets the reader read the warehouse's tables and nothing else. */
    public void grantReader(String database) throws SQLException {
        grantReader(database, "ferry");
    }

    /** Lets the reader read the tables of one schema and nothing else. */
    public void grantReader(String database, String schema) throws SQLException {
        Connection locked = rolesLocked();
        try (locked;
                Connection connection = owner(database);
                Statement statement = connection.createStatement()) {
            statement.execute("do $$ begin if not exists (select from pg_roles where rolname = '" + READER + "') then"
                    + " create role " + READER + " login nosuperuser nocreatedb nocreaterole; end if; end $$");
            statement.execute("alter role " + READER + " password '" + READER_PASSWORD + "'");
            statement.execute("alter role " + READER + " set default_transaction_read_only = on");
            statement.execute("revoke create on schema public from public");
            statement.execute("grant usage on schema " + schema + " to " + READER);
            statement.execute("grant select on all tables in schema " + schema + " to " + READER);
        }
    }

    /** Makes a schema of the warehouse that people are written back to, and the login that may write there and nowhere else. */
    public void makeWriter(String database) throws SQLException {
        Connection locked = rolesLocked();
        try (locked;
                Connection connection = owner(database);
                Statement statement = connection.createStatement()) {
            statement.execute("do $$ begin if not exists (select from pg_roles where rolname = '" + WRITER + "') then"
                    + " create role " + WRITER + " login nosuperuser nocreatedb nocreaterole; end if; end $$");
            statement.execute("alter role " + WRITER + " password '" + WRITER_PASSWORD + "'");
            statement.execute("create schema marketing");
            statement.execute("""
                    create table marketing.person_links (
                      record text primary key, person_id bigint not null, dataset text not null, key varchar(40) not null,
                      written_at timestamptz not null default now())""");
            statement.execute("""
                    create table marketing.people (
                      person_id bigint primary key, given_name text, family_name text, records int not null check (records > 0),
                      since date, agreed boolean, keys text[])""");
            statement.execute("create table marketing.no_key (words text)");
            statement.execute("grant usage on schema marketing to " + WRITER);
            statement.execute("grant select, insert, update, delete on all tables in schema marketing to " + WRITER);
        }
    }

    /** Makes the login that reads people, and nothing else, out of Remitto's own database. */
    public void makePeopleReader() throws SQLException {
        try (Connection connection = rolesLocked();
                Statement statement = connection.createStatement()) {
            statement.execute("do $$ begin if not exists (select from pg_roles where rolname = '" + PEOPLE_READER
                    + "') then create role " + PEOPLE_READER
                    + " login nosuperuser nocreatedb nocreaterole; end if; end $$");
            statement.execute("alter role " + PEOPLE_READER + " password '" + password + "'");
            statement.execute("alter role " + PEOPLE_READER + " set default_transaction_read_only = on");
        }
    }

    public String url(String database) {
        return clusterUrl + "/" + database;
    }

    public String password() {
        return password;
    }

    public int port() {
        return Integer.parseInt(clusterUrl.replaceAll(".*:(\\d+)$", "$1"));
    }
}

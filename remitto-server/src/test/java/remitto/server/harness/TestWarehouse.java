package remitto.server.harness;

import java.util.HashMap;
import java.util.Map;

/** A database of a made-up shop with a login that may read it, and some that may do too much. */
public final class TestWarehouse implements AutoCloseable {
    private final TestCluster cluster;
    private final String database;

    TestWarehouse(TestCluster cluster, String database) {
        this.cluster = cluster;
        this.database = database;
        cluster.make(database, "shop_owner");
        cluster.run(database, """
                create schema shop;
                create table shop.customers (
                  id int primary key, given_name text, family_name text, email text, phone text, town text,
                  country text, health_note text, agreed text);
                create sequence shop.counter;
                insert into shop.customers
                select i, 'Given' || i, 'Familyname' || i, 'person' || i || '@mail.example', '+4790000' || (100 + i),
                  case when i % 2 = 0 then 'Stavern' else 'Lervik' end, 'NO', 'allergy number ' || i, 'yes'
                from generate_series(1, 40) as i
                """);
        cluster.role("shop_reader", "nosuperuser nocreatedb nocreaterole");
        cluster.run(database, """
                grant usage on schema shop to shop_reader;
                grant select on all tables in schema shop to shop_reader;
                """);
        cluster.role("shop_writer", "nosuperuser nocreatedb nocreaterole");
        cluster.run(database, """
                grant usage on schema shop to shop_writer;
                grant select, insert, update, delete on all tables in schema shop to shop_writer;
                grant usage on all sequences in schema shop to shop_writer;
                """);
    }

    public String database() {
        return database;
    }

    /** The address of the source, as the API takes it. */
    public Map<String, Object> address(String user) {
        Map<String, Object> address = new HashMap<>();
        address.put("host", "127.0.0.1");
        address.put("port", cluster.port());
        address.put("database", database);
        address.put("user", user);
        address.put("tls", "OFF");
        return address;
    }

    /** Connects it as a source and gives its id. */
    public long connect(TestUser editor, String name, String user) {
        return editor.post(
                        "/api/sources", Map.of("name", name, "address", address(user), "password", cluster.password()))
                .ok()
                .get("id")
                .asLong();
    }

    /** Adds customers until there are so many, beyond the forty that there are at first. */
    public void customers(int many) {
        run("insert into shop.customers (id, town, email) select i, 'Ness', 'p' || i || '@mail.example'"
                + " from generate_series(41, " + many + ") as i");
    }

    /** The first cell of a query as the superuser. */
    public String text(String sql) {
        return cluster.text(database, sql);
    }

    public void run(String sql) {
        cluster.run(database, sql);
    }

    @Override
    public void close() {
        cluster.drop(database);
    }
}

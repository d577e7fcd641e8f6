package remitto.server.migration;

import org.flywaydb.core.Flyway;
import remitto.server.harness.TestCluster;

/** A database as an earlier version left it, brought to the present one. */
final class UpgradedDatabase implements AutoCloseable {
    private final TestCluster cluster = TestCluster.given();
    private final String name;

    /**
     * @param before number of the last migration that the earlier version had
     * @param statements what it had written by then; references are not looked at
     */
    UpgradedDatabase(String name, String before, String... statements) {
        this.name = "remitto_" + name + "_" + ProcessHandle.current().pid();
        cluster.make(this.name, "remitto");
        migrate(before);
        for (String statement : statements) {
            run(statement);
        }
        migrate("latest");
    }

    private void migrate(String target) {
        Flyway.configure()
                .dataSource(cluster.url(name), "remitto", cluster.password())
                .target(target)
                .load()
                .migrate();
    }

    /** Runs a statement without looking at references. */
    void run(String statement) {
        cluster.run(name, "set session_replication_role = replica; " + statement);
    }

    String text(String sql) {
        return cluster.text(name, sql);
    }

    @Override
    public void close() {
        cluster.drop(name);
    }
}

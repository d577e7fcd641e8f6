package remitto.server.harness;

import org.flywaydb.core.Flyway;

/**
 * A database of the server with every migration applied and nothing in it, which those of tests are copied from: to migrate each
 * anew takes longer than most tests. The server looks at its migrations when it starts all the same.
 */
public final class MigratedTemplate {
    private static final String NAME =
            "remitto_template_" + ProcessHandle.current().pid();
    private static boolean made;

    private MigratedTemplate() {}

    /** Its name; made when it is first asked for, and dropped when the tests end. */
    public static synchronized String of(TestCluster cluster) {
        if (!made) {
            cluster.make(NAME, "remitto");
            Flyway.configure()
                    .dataSource(cluster.url(NAME), "remitto", cluster.password())
                    .load()
                    .migrate();
            Runtime.getRuntime().addShutdownHook(new Thread(() -> cluster.drop(NAME)));
            made = true;
        }
        return NAME;
    }
}

package remitto.bench.crash;

import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import remitto.demo.Databases;
import remitto.demo.history.Api;
import remitto.demo.history.Desk;
import remitto.demo.history.Scenario;
import remitto.demo.warehouse.Halvorn;
import tools.jackson.databind.JsonNode;

/** The whole product in processes that may be killed: cluster, stand-in and server, with one route between them. */
final class CrashRig implements AutoCloseable {
    private static final String PASSWORD = "crash-2026-crash";
    private static final long SEED = 11;

    final Path folder;
    final PgCluster cluster;
    final Child standIn;
    final Child server;
    final Desk desk;
    final Witness witness;
    private final Databases databases;
    private final int serverPort;
    private Api api;
    private long repeats;
    private final long route;

    /** @param jars the packaged server and stand-in */
    record Jars(Path server, Path standIns) {}

    CrashRig(Jars jars, int people) throws Exception {
        folder = Files.createTempDirectory("remitto-crash");
        folder.toFile().setReadable(true, false);
        folder.toFile().setExecutable(true, false);
        cluster = PgCluster.make(folder);
        databases = new Databases(cluster.url(), cluster.password());
        databases.fresh("remitto", "remitto");
        databases.fresh("halvorn", "halvorn_owner");
        try (Connection warehouse = databases.owner("halvorn")) {
            new Halvorn(warehouse, SEED, people, LocalDate.of(2026, 11, 20)).load();
        }
        databases.grantReader("halvorn");
        int purser = freePort();
        serverPort = freePort();
        standIn = new Child(
                folder.resolve("standins.log"),
                List.of("-jar", jars.standIns().toString(), folder.toString(), Integer.toString(purser)));
        witness = new Witness(folder.resolve("purser.jsonl"));
        URI purserAddress = URI.create("http://127.0.0.1:" + purser);
        desk = new Desk(purserAddress);
        server = new Child(folder.resolve("server.log"), serverArguments(jars.server()));
        awaitDesk();
        api = signIn();
        desk.limit(false);
        Scenario.Ids ids = new Scenario(api)
                .setUp(new Scenario.Places(
                        "127.0.0.1",
                        databases.port(),
                        "halvorn",
                        Databases.READER,
                        Databases.READER_PASSWORD,
                        purserAddress.toString()));
        route = ids.passes();
    }

    private static int freePort() throws IOException {
        try (ServerSocket socket = new ServerSocket(0)) {
            return socket.getLocalPort();
        }
    }

    private List<String> serverArguments(Path jar) {
        List<String> arguments = new ArrayList<>(List.of("-jar", jar.toString(), "--server.port=" + serverPort));
        Map.of(
                        "spring.datasource.url",
                        databases.url("remitto"),
                        "spring.datasource.username",
                        "remitto",
                        "spring.datasource.password",
                        databases.password(),
                        "remitto.secret-key-file",
                        folder.resolve("secret.key").toString(),
                        "remitto.administrator.email",
                        "admin@halvorn.example",
                        "remitto.administrator.password",
                        PASSWORD)
                .forEach((name, value) -> arguments.add("--" + name + "=" + value));
        return arguments;
    }

    void awaitDesk() throws InterruptedException {
        while (true) {
            try {
                desk.calls(Long.MAX_VALUE - 1);
                return;
            } catch (java.io.UncheckedIOException e) {
                still(standIn, "the stand-in");
            }
        }
    }

    private Api signIn() throws InterruptedException {
        while (true) {
            try {
                return new Api(URI.create("http://127.0.0.1:" + serverPort)).signIn("admin@halvorn.example", PASSWORD);
            } catch (java.io.UncheckedIOException | Api.Refused e) {
                still(server, "the server");
            }
        }
    }

    private void still(Child child, String name) throws InterruptedException {
        if (!child.isAlive()) {
            throw new IllegalStateException(name + " does not run; its log is in " + folder);
        }
        TimeUnit.MILLISECONDS.sleep(100);
    }

    /** Changes the warehouse the same way for the same round: several hundred to several thousand rows. */
    void changeRows(int round) throws SQLException {
        try (Connection connection = databases.owner("halvorn");
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "update ferry.pass_holders set home_port = (array['TAR','BRE','LYS','SAN','KVA'])[1 + abs(hashtext("
                            + "pass_number || " + round + ")) % 5] where abs(hashtext('r' || pass_number || " + round
                            + ")) % 3 > 0");
            statement.execute("insert into ferry.pass_holders select 'N-' || " + round
                    + " || '-' || pass_number, given_name, family_name, 'n' || " + round
                    + " || lower(pass_number) || '@ny.example', null, country, birth_date, home_port, 'active', 'yes',"
                    + " valid_until, updated_at from ferry.pass_holders where pass_number like 'P-%' and abs(hashtext("
                    + "'n' || pass_number || " + round + ")) % 20 = 0");
        }
    }

    /** Asks the server, whatever it takes while something is being started again. */
    interface Question<T> {
        T ask(Api api);
    }

    <T> T ask(Question<T> question) throws InterruptedException {
        while (true) {
            try {
                return question.ask(api);
            } catch (java.io.UncheckedIOException | Api.Refused e) {
                if (e instanceof Api.Refused refused && refused.status() == 409) {
                    throw refused;
                }
                still(server, "the server");
                api = signIn();
            }
        }
    }

    /** Identical rewrites since the last question; the stand-in forgets them when it is killed. */
    long repeatsSinceLast() {
        long now = Long.parseLong(desk.get("/control/repeats"));
        long fresh = now >= repeats ? now - repeats : now;
        repeats = now;
        return fresh;
    }

    /** Draws up a manifest and starts sending it. */
    long startSending() throws InterruptedException {
        long run = ask(one -> one.post("/api/routes/" + route + "/runs", Map.of())
                .get("runId")
                .asLong());
        JsonNode drawn = await(run);
        if (drawn.get("state").asString().equals("STOPPED")) {
            throw new IllegalStateException("a guard stopped the run: " + drawn.get("message"));
        }
        if (drawn.get("state").asString().equals("DRAWN")) {
            ask(one -> one.post("/api/runs/" + run + "/send", Map.of()));
        }
        return run;
    }

    JsonNode await(long run) throws InterruptedException {
        return ask(one -> one.await(run));
    }

    JsonNode state(long run) throws InterruptedException {
        return ask(one -> one.get("/api/runs/" + run));
    }

    /** Sends what is left of a halted run. */
    void sendRest(long run) throws InterruptedException {
        try {
            ask(one -> one.post("/api/runs/" + run + "/send", Map.of()));
        } catch (Api.Refused alreadyUnderWay) {
            // it goes on by itself, or somebody else took it up
        }
    }

    @Override
    public void close() throws IOException {
        server.close();
        standIn.close();
        cluster.close();
    }
}

package remitto.bench.crash;

import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import remitto.bench.Ports;
import remitto.demo.Databases;
import remitto.demo.history.Api;
import remitto.demo.history.Desk;
import remitto.demo.warehouse.Halvorn;

/**
 * The whole product in processes that may be killed, stopped and cut off: two servers on one database, each with a strait of its own
 * between them; stand-ins for the tools; and a warehouse that nobody touches.
 */
final class CrashRig implements AutoCloseable {
    private static final String PASSWORD = "crash-2026-crash";
    private static final long SEED = 11;
    private static final int DISK_MEGABYTES = 1_500;
    private static final Duration LONGEST_ANSWER = Duration.ofSeconds(20);
    private static final Duration LONGEST_START = Duration.ofMinutes(6);

    final Path folder;
    final Optional<SmallDisk> disk;
    final PgCluster cluster;
    final PgCluster harbour;
    final Child standIns;
    final List<Ship> servers = new ArrayList<>();
    final Sea sea;
    final CrashRoutes.Ids routes;
    final List<Desk> desks = new ArrayList<>();
    private final Databases own;
    private final Ports free = Ports.claim();

    /** @param jars the packaged benchmarks, which hold the server, and the stand-ins */
    record Jars(Path bench, Path standIns) {}

    /** A server with what it stands on. */
    record Ship(Child process, Strait strait, Path clock, Api api, int port) {
        void setClock(long seconds) throws IOException {
            Files.writeString(clock, Long.toString(seconds));
        }
    }

    /**
     * @param people of the made-up company
     * @param small whether the database lies on a disk that can be filled
     */
    CrashRig(Jars jars, int people, boolean small) throws Exception {
        folder = Files.createTempDirectory("remitto-crash");
        folder.toFile().setReadable(true, false);
        folder.toFile().setExecutable(true, false);
        Path disks = folder.resolve("disk");
        disk = small ? Optional.of(SmallDisk.at(disks, DISK_MEGABYTES)) : Optional.empty();
        cluster = PgCluster.make(disks.resolve("pg"), free.next());
        harbour = PgCluster.make(folder.resolve("harbour"), free.next());
        own = new Databases(cluster.url(), cluster.password());
        own.fresh("remitto", "remitto");
        Databases warehouse = new Databases(harbour.url(), harbour.password());
        warehouse.fresh("halvorn", "halvorn_owner");
        try (Connection connection = warehouse.owner("halvorn")) {
            new Halvorn(connection, SEED, people, LocalDate.of(2026, 11, 20)).load();
        }
        sea = new Sea(warehouse, "halvorn");
        sea.prepare();
        List<Integer> ports = List.of(free.next(), free.next(), free.next());
        List<String> arguments = new ArrayList<>(List.of("-jar", jars.standIns().toString(), folder.toString()));
        ports.forEach(port -> arguments.add(Integer.toString(port)));
        standIns = new Child(folder.resolve("standins.log"), arguments);
        ports.forEach(port -> desks.add(new Desk(address(port))));
        awaitDesks();
        for (String name : List.of("A", "B")) {
            servers.add(ship(jars.bench(), name));
            // One after the other: the first makes the tables.
            awaitServer(servers.get(servers.size() - 1));
        }
        routes = new CrashRoutes(servers.get(0).api())
                .setUp(new CrashRoutes.Places(
                        harbour.port(),
                        address(ports.get(0)).toString(),
                        address(ports.get(1)).toString(),
                        address(ports.get(2)).toString(),
                        Databases.READER,
                        Databases.READER_PASSWORD));
    }

    private static URI address(int port) {
        return URI.create("http://127.0.0.1:" + port);
    }

    private Ship ship(Path jar, String name) throws IOException {
        Strait strait = new Strait(cluster.port());
        int port = free.next();
        Path clock = folder.resolve("clock-" + name);
        List<String> arguments = new ArrayList<>(List.of(
                "-cp",
                jar.toString(),
                "-Dloader.main=remitto.bench.crash.SteppedServer",
                "org.springframework.boot.loader.launch.PropertiesLauncher",
                clock.toString()));
        Map.of(
                        "server.port",
                        Integer.toString(port),
                        "spring.datasource.url",
                        "jdbc:postgresql://127.0.0.1:" + strait.port() + "/remitto",
                        "spring.datasource.username",
                        "remitto",
                        "spring.datasource.password",
                        own.password(),
                        "remitto.secret-key-file",
                        folder.resolve("secret.key").toString(),
                        "remitto.outgoing-allowed",
                        "127.0.0.1",
                        "remitto.outbox",
                        folder.resolve("outbox").toString(),
                        "remitto.session.longest",
                        "9999d",
                        "remitto.administrator.email",
                        "admin@halvorn.example",
                        "remitto.administrator.password",
                        PASSWORD)
                .forEach((setting, value) -> arguments.add(setting + "=" + value));
        arguments.add("remitto.stand-ins=true");
        Child process = new Child(folder.resolve("server-" + name + ".log"), arguments);
        return new Ship(process, strait, clock, new Api(address(port), Optional.of(LONGEST_ANSWER)), port);
    }

    void awaitDesks() throws InterruptedException {
        for (Desk desk : desks) {
            while (true) {
                try {
                    desk.limit(false);
                    break;
                } catch (java.io.UncheckedIOException e) {
                    still(standIns, "the stand-ins");
                }
            }
        }
    }

    void awaitServer(Ship ship) throws InterruptedException {
        long until = System.nanoTime() + LONGEST_START.toNanos();
        while (System.nanoTime() < until) {
            try {
                ship.api().signIn("admin@halvorn.example", PASSWORD);
                return;
            } catch (java.io.UncheckedIOException | Api.Refused e) {
                still(ship.process(), "a server");
            }
        }
        throw new IllegalStateException("a server does not answer; its log is in " + folder);
    }

    private void still(Child child, String name) throws InterruptedException {
        if (!child.isAlive()) {
            throw new IllegalStateException(name + " does not run; its log is in " + folder);
        }
        TimeUnit.MILLISECONDS.sleep(100);
    }

    void faults(List<String> faults) {
        for (int at = 0; at < desks.size(); at++) {
            desks.get(at).faults(faults.get(at));
        }
    }

    /** Asked of the first server that answers. */
    interface Question<T> {
        T ask(Api api);
    }

    /** @return empty when none answers now, or one says that it cannot */
    <T> Optional<T> tryToAsk(Question<T> question) {
        for (Ship ship : servers) {
            try {
                return Optional.of(question.ask(ship.api()));
            } catch (java.io.UncheckedIOException e) {
                // It is down, or does not answer in time; the other may.
            } catch (Api.Refused e) {
                if (e.status() == 401) {
                    signInAgain(ship);
                } else if (e.status() < 500) {
                    throw e;
                }
            }
        }
        return Optional.empty();
    }

    private static void signInAgain(Ship ship) {
        try {
            ship.api().signIn("admin@halvorn.example", PASSWORD);
        } catch (java.io.UncheckedIOException | Api.Refused e) {
            // The next question tries again.
        }
    }

    @Override
    public void close() throws IOException {
        for (Ship ship : servers) {
            ship.process().close();
            ship.strait().close();
        }
        standIns.close();
        cluster.close();
        harbour.close();
        if (disk.isPresent()) {
            disk.get().close();
        }
    }
}

package remitto.bench.crash;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;

/** A PostgreSQL cluster of its own that may be killed. Uses the newest server Debian installed. */
final class PgCluster implements AutoCloseable {
    private static final int START_TRIES = 60;

    private final Path folder;
    private final Path programs;
    private final String password;
    private final int port;
    private final List<Long> paused = new ArrayList<>();

    private PgCluster(Path folder, Path programs, String password, int port) {
        this.folder = folder;
        this.programs = programs;
        this.password = password;
        this.port = port;
    }

    /**
     * @param folder its own, which need not be there yet
     * @param port that nobody else takes
     */
    static PgCluster make(Path folder, int port) throws IOException, InterruptedException {
        Path programs;
        try (var versions = Files.list(Path.of("/usr/lib/postgresql"))) {
            programs = versions.map(version -> version.resolve("bin"))
                    .filter(bin -> Files.isExecutable(bin.resolve("initdb")))
                    .max((one, other) -> one.toString().compareTo(other.toString()))
                    .orElseThrow(() -> new IllegalStateException("no PostgreSQL server is installed"));
        }
        Files.createDirectories(folder);
        PgCluster cluster = new PgCluster(folder, programs, "crash-" + port, port);
        cluster.init();
        cluster.start();
        return cluster;
    }

    private static boolean root() {
        return System.getProperty("user.name").equals("root");
    }

    private void init() throws IOException, InterruptedException {
        Path secret = folder.resolve("secret");
        Files.writeString(secret, password + "\n");
        if (root()) {
            run(List.of("chown", "-R", "postgres", folder.toString()));
        }
        runAsOwner(
                programs.resolve("initdb").toString(),
                "-D",
                data(),
                "-U",
                "postgres",
                "-E",
                "UTF8",
                "--locale=C.UTF-8",
                "--auth-local=trust",
                "--auth-host=scram-sha-256",
                "--pwfile=" + secret);
    }

    private String data() {
        return folder.resolve("data").toString();
    }

    /** Does nothing while it runs. */
    synchronized void start() throws IOException, InterruptedException {
        if (runs()) {
            return;
        }
        for (int i = 0; i < START_TRIES; i++) {
            // After a kill the server's children take a moment to notice and go; until then it will not start.
            Files.deleteIfExists(folder.resolve("data").resolve("postmaster.pid"));
            if (tryAsOwner(
                            programs.resolve("pg_ctl").toString(),
                            "-D",
                            data(),
                            "-l",
                            folder.resolve("log").toString(),
                            "-w",
                            "-o",
                            "-p " + port + " -c listen_addresses=127.0.0.1 -c unix_socket_directories=" + folder
                                    + " -c max_connections=120 -c max_wal_size=192MB -c min_wal_size=48MB",
                            "start")
                    == 0) {
                return;
            }
            TimeUnit.MILLISECONDS.sleep(250);
        }
        throw new IllegalStateException("PostgreSQL did not start; see " + folder.resolve("log"));
    }

    private boolean runs() throws IOException, InterruptedException {
        return tryAsOwner(programs.resolve("pg_ctl").toString(), "-D", data(), "status") == 0;
    }

    /** After a disk that was full it may have given up. */
    void startIfItStopped() throws IOException, InterruptedException {
        TimeUnit.SECONDS.sleep(1);
        start();
    }

    /** SIGKILL to the first of its processes; the others notice, and go, if they may run at all. */
    synchronized void kill() throws IOException, InterruptedException {
        List<Long> all = processes();
        if (!all.isEmpty()) {
            Optional<ProcessHandle> first = ProcessHandle.of(all.get(0));
            first.ifPresent(ProcessHandle::destroyForcibly);
            Signal.CONT.to(all);
            first.ifPresent(one -> one.onExit().join());
        }
    }

    /** Stops all its processes where they are. */
    synchronized void pause() throws IOException, InterruptedException {
        paused.addAll(processes());
        if (!paused.isEmpty()) {
            Signal.STOP.to(paused);
        }
    }

    synchronized void resume() throws IOException, InterruptedException {
        if (!paused.isEmpty()) {
            Signal.CONT.to(paused);
        }
        paused.clear();
    }

    /** The first is the one that the others belong to. */
    private List<Long> processes() throws IOException {
        Path file = folder.resolve("data").resolve("postmaster.pid");
        if (!Files.exists(file)) {
            return List.of();
        }
        long first = Long.parseLong(Files.readAllLines(file).get(0).strip());
        List<Long> all = new ArrayList<>(List.of(first));
        ProcessHandle.of(first).ifPresent(one -> one.descendants().forEach(child -> all.add(child.pid())));
        return all;
    }

    int port() {
        return port;
    }

    String url() {
        return "jdbc:postgresql://127.0.0.1:" + port;
    }

    String password() {
        return password;
    }

    private void runAsOwner(String... command) throws IOException, InterruptedException {
        if (tryAsOwner(command) != 0) {
            throw new IllegalStateException(String.join(" ", command) + " failed; see " + folder.resolve("out"));
        }
    }

    private int tryAsOwner(String... command) throws IOException, InterruptedException {
        List<String> all = new ArrayList<>();
        if (root()) {
            all.addAll(List.of("runuser", "-u", "postgres", "--"));
        }
        all.addAll(List.of(command));
        return run(all);
    }

    private int run(List<String> command) throws IOException, InterruptedException {
        return new ProcessBuilder(command)
                .directory(folder.toFile())
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(
                        folder.getParent().resolve("pg-commands.log").toFile()))
                .start()
                .waitFor();
    }

    @Override
    public void close() throws IOException {
        try {
            // A kill is stop enough for a cluster nobody needs any more.
            kill();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}

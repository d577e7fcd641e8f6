package remitto.server.harness;

import java.io.IOException;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/** Debian's MariaDB server, on loopback, with an empty folder of its own and the least memory it runs with. */
public final class TestMariaDb implements AutoCloseable {
    /** Of every login that is made here. */
    public static final String PASSWORD = "harbour 'master' 7";

    private static final Duration PATIENCE = Duration.ofSeconds(90);

    private final Path folder;
    private final int port;
    private final Process server;

    private TestMariaDb(Path folder, int port, Process server) {
        this.folder = folder;
        this.port = port;
        this.server = server;
    }

    public static TestMariaDb start() {
        try {
            Path folder = Files.createTempDirectory("remitto-mariadb-");
            int port;
            try (ServerSocket free = new ServerSocket(0)) {
                port = free.getLocalPort();
            }
            List<String> everywhere = List.of(
                    "--no-defaults",
                    "--datadir=" + folder.resolve("data"),
                    "--user=" + System.getProperty("user.name"));
            run(folder, "mariadb-install-db", everywhere, "--auth-root-authentication-method=normal", "--skip-test-db");
            certify(folder);
            Process server = begin(
                    folder,
                    "mariadbd",
                    everywhere,
                    "--bind-address=127.0.0.1",
                    "--port=" + port,
                    "--socket=" + folder.resolve("socket"),
                    "--pid-file=" + folder.resolve("pid"),
                    "--innodb-buffer-pool-size=16M",
                    "--innodb-flush-log-at-trx-commit=0",
                    "--skip-log-bin",
                    "--ssl-cert=" + folder.resolve("certificate.pem"),
                    "--ssl-key=" + folder.resolve("key.pem"));
            TestMariaDb started = new TestMariaDb(folder, port, server);
            started.await();
            return started;
        } catch (IOException e) {
            throw new IllegalStateException("MariaDB cannot be started", e);
        }
    }

    /** A certificate that nobody else vouches for. */
    private static void certify(Path folder) throws IOException {
        Process made = new ProcessBuilder(
                        "openssl",
                        "req",
                        "-x509",
                        "-newkey",
                        "rsa:2048",
                        "-nodes",
                        "-days",
                        "2",
                        "-subj",
                        "/CN=127.0.0.1",
                        "-keyout",
                        folder.resolve("key.pem").toString(),
                        "-out",
                        folder.resolve("certificate.pem").toString())
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("openssl.log").toFile())
                .start();
        if (made.onExit().join().exitValue() != 0) {
            throw new IOException(Files.readString(folder.resolve("openssl.log")));
        }
    }

    private static Process begin(Path folder, String program, List<String> everywhere, String... arguments)
            throws IOException {
        List<String> command = new ArrayList<>(List.of(program));
        command.addAll(everywhere);
        command.addAll(List.of(arguments));
        ProcessBuilder builder = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve(program + ".log").toFile());
        builder.environment().merge("PATH", "/usr/sbin", (path, more) -> path + ":" + more);
        command.set(0, program.equals("mariadbd") ? "/usr/sbin/mariadbd" : "/usr/bin/" + program);
        return builder.start();
    }

    private static void run(Path folder, String program, List<String> everywhere, String... arguments)
            throws IOException {
        if (begin(folder, program, everywhere, arguments).onExit().join().exitValue() != 0) {
            throw new IOException(Files.readString(folder.resolve(program + ".log")));
        }
    }

    private void await() throws IOException {
        Instant end = Instant.now().plus(PATIENCE);
        while (true) {
            try {
                root("mysql").close();
                return;
            } catch (SQLException e) {
                if (!server.isAlive() || Instant.now().isAfter(end)) {
                    throw new IOException(Files.readString(folder.resolve("mariadbd.log")), e);
                }
                pause();
            }
        }
    }

    private static void pause() {
        try {
            TimeUnit.MILLISECONDS.sleep(50);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }

    public int port() {
        return port;
    }

    public Connection root(String database) throws SQLException {
        return DriverManager.getConnection(
                "jdbc:mariadb://127.0.0.1:" + port + "/" + database + "?allowMultiQueries=true&sslMode=disable",
                "root",
                "");
    }

    public void run(String sql) {
        try (Connection connection = root("mysql");
                Statement statement = connection.createStatement()) {
            statement.execute(sql);
        } catch (SQLException e) {
            throw new IllegalStateException(sql, e);
        }
    }

    /** Makes a login anew. @param grants each what and on what, such as {@code select on shop.*} */
    public void login(String name, String... grants) {
        run("create or replace user '" + name + "'@'%' identified by '" + PASSWORD.replace("'", "''") + "'");
        for (String grant : grants) {
            run("grant " + grant + " to '" + name + "'@'%'");
        }
    }

    @Override
    public void close() {
        server.destroyForcibly().onExit().join();
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path one : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(one);
            }
        } catch (IOException e) {
            System.err.println(folder + " is left over: " + e.getMessage());
        }
    }
}

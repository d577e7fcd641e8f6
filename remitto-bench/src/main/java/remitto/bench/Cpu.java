package remitto.bench;

import com.sun.management.OperatingSystemMXBean;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import remitto.demo.Databases;

/** CPU time of this process, which the server runs in, and of every process of the database (proc(5), stat: user and system). */
final class Cpu {
    private static final double TICKS_PER_SECOND = 100;
    private static final int PARENT = 1;
    private static final int USER = 11;
    private static final int FIELDS = 4;

    private final String postmaster;
    private double serverAtStart;
    private double databaseAtStart;
    private double serverSpent;
    private double databaseSpent;

    private Cpu(String postmaster) {
        this.postmaster = postmaster;
    }

    static Cpu of(Databases databases) throws SQLException, IOException {
        try (Connection connection = databases.owner("postgres");
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery("select pg_backend_pid()")) {
            row.next();
            return new Cpu(stat(row.getString(1)).get(PARENT));
        }
    }

    /** What follows the name of the process, which may hold spaces: state, parent, and on. */
    private static List<String> stat(String process) throws IOException {
        String line = Files.readString(Path.of("/proc/" + process + "/stat"));
        return List.of(line.substring(line.lastIndexOf(')') + 2).split(" "));
    }

    void begin() {
        serverAtStart = server();
        databaseAtStart = database();
    }

    /** What was spent since it was begun counts; more may follow. */
    void end() {
        serverSpent += server() - serverAtStart;
        databaseSpent += database() - databaseAtStart;
    }

    private static double server() {
        OperatingSystemMXBean system = ManagementFactory.getPlatformMXBean(OperatingSystemMXBean.class);
        return system.getProcessCpuTime() / 1e9;
    }

    /** Of the postmaster, its children that ended (which it has waited for) and those that run. */
    private double database() {
        try (Stream<Path> processes = Files.list(Path.of("/proc"))) {
            return processes
                    .map(path -> String.valueOf(path.getFileName()))
                    .filter(name -> name.chars().allMatch(Character::isDigit))
                    .mapToDouble(this::seconds)
                    .sum();
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    private double seconds(String process) {
        try {
            List<String> stat = stat(process);
            boolean itself = process.equals(postmaster);
            if (!itself && !stat.get(PARENT).equals(postmaster)) {
                return 0;
            }
            // The children's times of the postmaster hold those of backends that ended.
            return stat.subList(USER, USER + (itself ? FIELDS : 2)).stream()
                            .mapToLong(Long::parseLong)
                            .sum()
                    / TICKS_PER_SECOND;
        } catch (IOException e) {
            return 0;
        }
    }

    /** Microseconds a record of all that was spent between a beginning and its end, as in {@code server_us=3.1 database_us=1.2}. */
    String each(long records) {
        return String.format(
                Locale.ROOT,
                "server_us=%.1f database_us=%.1f",
                serverSpent * 1e6 / records,
                databaseSpent * 1e6 / records);
    }
}

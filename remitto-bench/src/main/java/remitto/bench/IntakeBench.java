package remitto.bench;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.InputStream;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.atomic.AtomicLong;
import org.postgresql.PGConnection;
import remitto.standins.ticketshop.SignedCall;
import tools.jackson.databind.JsonNode;

/**
 * How fast data comes in. Signed calls: how many a second are answered, each of them committed, and how long the slowest hundredth of them
 * waits; caller and server share the machine. A CSV file: how much longer it takes to land than a bare COPY of the same file into the same columns.
 */
final class IntakeBench {
    private static final int CALLERS = 16;
    private static final int WARM_UP_SECONDS = 45;
    private static final int FILES = 200;
    private static final int TRIES = 3;

    private final int rows;
    private final int seconds;

    /** @param seconds that calls are counted for */
    IntakeBench(int rows, int seconds) {
        this.rows = rows;
        this.seconds = seconds;
    }

    void run() throws Exception {
        Path inbox = Files.createTempDirectory("remitto-bench-inbox");
        System.setProperty("remitto.inbox", inbox.toString());
        try (Installation installation = Installation.fresh(warehouse -> {})) {
            String calls = calls(installation);
            String csv = csv(installation, inbox);
            System.out.println("intake " + calls + " " + csv);
        }
    }

    private static Map<String, Object> column(String name, String type) {
        return Map.of("name", name, "from", name, "type", type, "spelling", "");
    }

    private String calls(Installation installation) throws Exception {
        long source =
                id(installation.api.post("/api/sources", Map.of("name", "Calls", "address", Map.of("kind", "calls"))));
        Map<String, Object> definition = new HashMap<>();
        definition.put("check", Map.of("kind", "standard-webhooks"));
        definition.put("records", "");
        definition.put(
                "columns",
                List.of(
                        column("id", "TEXT"),
                        column("mail", "TEXT"),
                        column("at", "TIMESTAMP"),
                        column("n", "INTEGER")));
        definition.put("eventKey", "");
        definition.put("several", Map.of("kind", "every-call-adds"));
        definition.put("zone", "UTC");
        definition.put("keepDays", 0);
        definition.put("callsPerMinute", 600_000);
        definition.put("mostKilobytes", 64);
        long id = id(installation.api.post(
                "/api/receivers",
                Map.of(
                        "name",
                        "Events",
                        "sourceId",
                        source,
                        "table",
                        "events",
                        "basedOn",
                        0,
                        "definition",
                        definition)));
        JsonNode address = installation.api.post("/api/receivers/" + id + "/address/show", Map.of());
        SignedCall tool = new SignedCall(
                URI.create(address.get("url").asString()), address.get("secret").asString());
        measured(tool, "warm", WARM_UP_SECONDS);
        List<Long> nanos = measured(tool, "measured", seconds);
        long[] sorted = nanos.stream().mapToLong(Long::longValue).sorted().toArray();
        long start = System.nanoTime();
        while (installation
                        .api
                        .get("/api/receivers/" + id)
                        .get("counts")
                        .get("waiting")
                        .asLong()
                > 0) {
            Thread.sleep(50);
        }
        System.out.printf(
                Locale.ROOT,
                "%d calls in %d s, p50 %.1f ms, p99 %.1f ms; laid out %.1f s after the last%n",
                sorted.length,
                seconds,
                sorted[sorted.length / 2] / 1e6,
                sorted[sorted.length * 99 / 100] / 1e6,
                (System.nanoTime() - start) / 1e9);
        return String.format(
                Locale.ROOT,
                "calls_per_s=%d p99_ms=%.0f",
                sorted.length / seconds,
                sorted[sorted.length * 99 / 100] / 1e6);
    }

    private static List<Long> measured(SignedCall tool, String name, int seconds) throws InterruptedException {
        ConcurrentLinkedQueue<Long> nanos = new ConcurrentLinkedQueue<>();
        ConcurrentLinkedQueue<IOException> failed = new ConcurrentLinkedQueue<>();
        AtomicLong events = new AtomicLong();
        long until = System.nanoTime() + seconds * 1_000_000_000L;
        List<Thread> callers = new ArrayList<>();
        for (int i = 0; i < CALLERS; i++) {
            callers.add(new Thread(() -> {
                try {
                    call(tool, name, events, until, nanos);
                } catch (IOException e) {
                    failed.add(e);
                }
            }));
        }
        callers.forEach(Thread::start);
        for (Thread caller : callers) {
            caller.join();
        }
        if (!failed.isEmpty()) {
            throw new java.io.UncheckedIOException(failed.peek());
        }
        return List.copyOf(nanos);
    }

    /** Over a socket of its own that stays open: a client of more comfort would take more of the machine than the server. */
    private static void call(
            SignedCall tool, String name, AtomicLong events, long until, ConcurrentLinkedQueue<Long> nanos)
            throws IOException {
        Optional<Line> line = Optional.empty();
        try {
            while (System.nanoTime() < until) {
                String event = name + events.incrementAndGet();
                String body = body(event);
                HttpRequest request = tool.of(event, body, Instant.now());
                long start = System.nanoTime();
                if (line.filter(one -> !one.isOver()).isEmpty()) {
                    line = Optional.of(new Line(request.uri()));
                }
                String status = line.get().call(request, body);
                nanos.add(System.nanoTime() - start);
                if (!status.startsWith("HTTP/1.1 200")) {
                    throw new IOException(status);
                }
            }
        } finally {
            if (line.isPresent()) {
                line.get().close();
            }
        }
    }

    /** HTTP/1.1 with answers in chunks or of a stated length, and nothing else. */
    private static final class Line implements AutoCloseable {
        private final Socket socket;
        private final InputStream in;
        private boolean over;

        Line(URI address) throws IOException {
            socket = new Socket(address.getHost(), address.getPort());
            socket.setTcpNoDelay(true);
            in = new java.io.BufferedInputStream(socket.getInputStream());
        }

        /** The server said that it closes the line. */
        boolean isOver() {
            return over;
        }

        String call(HttpRequest request, String body) throws IOException {
            byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
            StringBuilder head = new StringBuilder("POST " + request.uri().getPath() + " HTTP/1.1\r\nHost: "
                    + request.uri().getAuthority() + "\r\nContent-Length: " + bytes.length + "\r\n");
            request.headers().map().forEach((header, values) -> head.append(header)
                    .append(": ")
                    .append(values.get(0))
                    .append("\r\n"));
            byte[] first = head.append("\r\n").toString().getBytes(StandardCharsets.ISO_8859_1);
            byte[] whole = Arrays.copyOf(first, first.length + bytes.length);
            System.arraycopy(bytes, 0, whole, first.length, bytes.length);
            socket.getOutputStream().write(whole);
            String status = line();
            int length = -1;
            for (String header = line(); !header.isEmpty(); header = line()) {
                if (header.toLowerCase(Locale.ROOT).startsWith("content-length:")) {
                    length = Integer.parseInt(header.substring(15).strip());
                }
                over |= header.equalsIgnoreCase("connection: close");
            }
            if (length >= 0) {
                in.skipNBytes(length);
            } else {
                for (int part = Integer.parseInt(line(), 16); part > 0; part = Integer.parseInt(line(), 16)) {
                    in.skipNBytes(part + 2L);
                }
                line();
            }
            if (over) {
                close();
            }
            return status;
        }

        private String line() throws IOException {
            StringBuilder text = new StringBuilder();
            for (int c = in.read(); c != '\n'; c = in.read()) {
                if (c < 0) {
                    throw new IOException("the server hung up");
                }
                if (c != '\r') {
                    text.append((char) c);
                }
            }
            return text.toString();
        }

        @Override
        public void close() throws IOException {
            socket.close();
        }
    }

    private static String body(String event) {
        return "{\"id\":\"" + event + "\",\"mail\":\"" + event + "@vik.example\",\"at\":\"2026-12-01T08:00:00Z\","
                + "\"n\":17,\"note\":\"" + "x".repeat(200) + "\"}";
    }

    private static long id(JsonNode created) {
        return created.get("id").asLong();
    }

    /** Both take turns, and the best of each counts: what disturbs them only makes them slower. */
    private String csv(Installation installation, Path inbox) throws Exception {
        Path folder = Files.createDirectories(inbox.resolve("whole"));
        Path file = folder.resolve("rows.csv");
        write(file, 0, rows);
        long source = id(installation.api.post(
                "/api/sources", Map.of("name", "Whole", "address", Map.of("kind", "folder", "folder", "whole"))));
        double copied = Double.MAX_VALUE;
        double landed = Double.MAX_VALUE;
        for (int i = 0; i < TRIES; i++) {
            copied = Math.min(copied, copied(installation, file));
            long set = set(installation, source, "rows_" + i, "rows.csv");
            landed = Math.min(landed, read(installation, set));
        }
        System.out.printf(
                Locale.ROOT,
                "%d rows, %d MB: COPY %.1f s, landed %.1f s%n",
                rows,
                Files.size(file) / 1_000_000,
                copied,
                landed);
        return String.format(Locale.ROOT, "csv_ratio=%.2f ", landed / copied) + oneOfMany(installation, inbox);
    }

    /** Reading a set of which one file changed, against reading that file alone. */
    private String oneOfMany(Installation installation, Path inbox) throws Exception {
        Path folder = Files.createDirectories(inbox.resolve("many"));
        int each = Math.max(1, rows / FILES);
        for (int i = 0; i < FILES; i++) {
            write(folder.resolve("part_" + i + ".csv"), i * each, each);
        }
        Files.createDirectories(inbox.resolve("one"));
        write(inbox.resolve("one").resolve("part.csv"), 0, each);
        long many = set(
                installation,
                id(installation.api.post(
                        "/api/sources", Map.of("name", "Many", "address", Map.of("kind", "folder", "folder", "many")))),
                "many",
                "*.csv");
        long one = set(
                installation,
                id(installation.api.post(
                        "/api/sources", Map.of("name", "One", "address", Map.of("kind", "folder", "folder", "one")))),
                "one",
                "*.csv");
        read(installation, many);
        read(installation, one);
        double best = Double.MAX_VALUE;
        double alone = Double.MAX_VALUE;
        for (int i = 1; i <= TRIES; i++) {
            write(folder.resolve("part_7.csv"), i, each);
            best = Math.min(best, read(installation, many));
            write(inbox.resolve("one").resolve("part.csv"), i, each);
            alone = Math.min(alone, read(installation, one));
        }
        return String.format(Locale.ROOT, "one_of_200=%.2f", best / alone);
    }

    private static void write(Path file, long from, int rows) throws IOException {
        try (BufferedWriter out = Files.newBufferedWriter(file)) {
            out.write("id,given_name,family_name,email,phone,country,city,joined,updated_at,score,active,note\n");
            for (long i = from; i < from + rows; i++) {
                out.write(i + ",Ingrid,Solvang" + i % 4_000 + ",p" + i + "@sol.example,+4791" + (100_000 + i % 900_000)
                        + ",NO,\"Lysøy, ytre\",2026-0" + (1 + i % 9) + "-1" + i % 9 + ",2026-11-01T00:00:"
                        + (10 + i % 50)
                        + "Z," + i % 1_000 / 10.0
                        + ",true,\"Prefers the window, and a seat far from the engine; pays by pass. Line "
                        + i % 40 + "\"\n");
            }
        }
        // Older than what may still be written to, and of another time than before.
        Files.setLastModifiedTime(
                file, FileTime.from(Instant.now().minusSeconds(3_600).plusSeconds(from)));
    }

    private static final String COLUMNS =
            "id bigint, given_name text, family_name text, email text, phone text, country text, city text, joined date,"
                    + " updated_at timestamptz, score numeric, active boolean, note text";

    private static double copied(Installation installation, Path file) throws SQLException, IOException {
        try (Connection connection = installation.own();
                Statement statement = connection.createStatement();
                var bytes = Files.newInputStream(file)) {
            statement.execute("drop table if exists bare; create table bare (" + COLUMNS + ")");
            long start = System.nanoTime();
            connection
                    .unwrap(PGConnection.class)
                    .getCopyAPI()
                    .copyIn("copy bare from stdin (format csv, header)", bytes, 1 << 16);
            double seconds = (System.nanoTime() - start) / 1e9;
            statement.execute("drop table bare");
            return seconds;
        }
    }

    private static long set(Installation installation, long source, String table, String pattern) {
        Map<String, Object> definition = new HashMap<>();
        definition.put("pattern", pattern);
        definition.put(
                "format",
                Map.of(
                        "kind",
                        "delimited",
                        "delimiter",
                        ",",
                        "quote",
                        "\"",
                        "encoding",
                        StandardCharsets.UTF_8.name(),
                        "skippedLines",
                        0,
                        "header",
                        true));
        definition.put(
                "columns",
                Arrays.stream(COLUMNS.split(", "))
                        .map(one -> one.split(" "))
                        .map(one -> column(one[0], type(one[1])))
                        .toList());
        definition.put("zone", "UTC");
        definition.put("several", Map.of("kind", "each-adds"));
        definition.put("afterReading", "LEAVE");
        definition.put("keepDays", 0);
        long set = id(installation.api.post(
                "/api/file-sets",
                Map.of("name", table, "sourceId", source, "table", table, "definition", definition, "basedOn", 0)));
        // Nothing reads it but the measurement.
        installation.api.post("/api/file-sets/" + set + "/pause", Map.of());
        return set;
    }

    private static String type(String sql) {
        return switch (sql) {
            case "bigint" -> "INTEGER";
            case "numeric" -> "DECIMAL";
            case "timestamptz" -> "TIMESTAMP";
            default -> sql.toUpperCase(Locale.ROOT);
        };
    }

    private static double read(Installation installation, long set) throws InterruptedException {
        long start = System.nanoTime();
        JsonNode job = installation.api.post("/api/file-sets/" + set + "/readings", Map.of());
        while (job.get("state").asString().equals("UNDER_WAY")) {
            Thread.sleep(5);
            job = installation.api.get(
                    "/api/file-sets/readings/" + job.get("id").asLong());
        }
        double seconds = (System.nanoTime() - start) / 1e9;
        JsonNode result = job.path("result");
        if (result.path("read").asInt() < 1 || result.path("failed").asInt() > 0) {
            throw new IllegalStateException(job.toString());
        }
        return seconds;
    }
}

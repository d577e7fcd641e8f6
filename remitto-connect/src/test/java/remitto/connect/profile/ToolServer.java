package remitto.connect.profile;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/** A tool that answers by path as the test says, and remembers what it was asked. */
final class ToolServer implements AutoCloseable {
    /** A call as it came in. */
    record Asked(String method, String target, Map<String, List<String>> headers, String body) {
        String header(String name) {
            return headers.entrySet().stream()
                    .filter(entry -> entry.getKey().equalsIgnoreCase(name))
                    .map(entry -> entry.getValue().get(0))
                    .findFirst()
                    .orElse("");
        }
    }

    record Told(int status, Map<String, String> headers, String body) {
        static Told json(String body) {
            return new Told(200, Map.of("Content-Type", "application/json"), body);
        }

        static Told refused(int status) {
            return new Told(status, Map.of(), "{\"problem\":\"no\"}");
        }
    }

    private final HttpServer server;
    private final Map<String, Function<Asked, Told>> paths = new HashMap<>();
    private final List<Asked> asked = new ArrayList<>();

    ToolServer() {
        try {
            server = HttpServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        server.createContext("/", this::handle);
        server.start();
    }

    private void handle(HttpExchange exchange) throws IOException {
        Asked one = new Asked(
                exchange.getRequestMethod(),
                exchange.getRequestURI().toString(),
                Map.copyOf(exchange.getRequestHeaders()),
                new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8));
        asked.add(one);
        Told told = paths.getOrDefault(exchange.getRequestURI().getPath(), any -> Told.refused(404))
                .apply(one);
        told.headers().forEach((name, value) -> exchange.getResponseHeaders().add(name, value));
        byte[] bytes = told.body().getBytes(StandardCharsets.UTF_8);
        exchange.sendResponseHeaders(told.status(), bytes.length);
        exchange.getResponseBody().write(bytes);
        exchange.close();
    }

    void on(String path, Function<Asked, Told> answer) {
        paths.put(path, answer);
    }

    List<Asked> asked() {
        return List.copyOf(asked);
    }

    String address() {
        return "http://127.0.0.1:" + server.getAddress().getPort();
    }

    @Override
    public void close() {
        server.stop(0);
    }
}

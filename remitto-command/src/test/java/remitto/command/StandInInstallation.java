package remitto.command;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Answers as an installation would, with what a test says, and remembers what it was asked. */
final class StandInInstallation implements AutoCloseable {
    static final String TOKEN = "remitto_made-up-for-a-test";

    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final HttpServer server;
    private final Map<String, Deque<Answer>> answers = new HashMap<>();
    private final List<Asked> asked = new ArrayList<>();

    private record Answer(int status, String body) {}

    /** @param line method and path */
    record Asked(String line, JsonNode body) {}

    StandInInstallation() {
        try {
            server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
        server.createContext("/", this::answer);
        server.start();
    }

    String url() {
        return "http://127.0.0.1:" + server.getAddress().getPort();
    }

    /** The next answer to a request; the last one stays. */
    StandInInstallation answers(String line, int status, String body) {
        answers.computeIfAbsent(line, any -> new ArrayDeque<>()).add(new Answer(status, body));
        return this;
    }

    List<Asked> asked() {
        return List.copyOf(asked);
    }

    List<String> lines() {
        return asked.stream().map(Asked::line).toList();
    }

    private synchronized void answer(HttpExchange exchange) throws IOException {
        String line = exchange.getRequestMethod() + " " + exchange.getRequestURI();
        String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
        asked.add(new Asked(line, JSON.readTree(body.isEmpty() ? "{}" : body)));
        boolean let = ("Bearer " + TOKEN).equals(exchange.getRequestHeaders().getFirst("Authorization"));
        Deque<Answer> those = answers.getOrDefault(line, new ArrayDeque<>());
        Answer answer = let
                ? those.isEmpty() ? new Answer(404, "{\"detail\":\"nothing at " + line + "\"}") : those.peek()
                : new Answer(401, "{\"detail\":\"This token is not known here.\"}");
        if (those.size() > 1) {
            those.poll();
        }
        byte[] bytes = answer.body().getBytes(StandardCharsets.UTF_8);
        exchange.sendResponseHeaders(answer.status(), bytes.length);
        exchange.getResponseBody().write(bytes);
        exchange.close();
    }

    @Override
    public void close() {
        server.stop(0);
    }
}

package remitto.server.harness;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import tools.jackson.databind.JsonNode;

/** A receiver, and the tool that calls it. */
public final class TestReceiver {
    public static final Map<String, Object> OPEN = Map.of("kind", "open");
    public static final Map<String, Object> STANDARD = Map.of("kind", "standard-webhooks");
    public static final Map<String, Object> EVERY_CALL_ADDS = Map.of("kind", "every-call-adds");

    private static final HttpClient HTTP =
            HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();

    private final TestServer server;
    private final TestUser editor;
    private final String table;
    private final long source;
    private final long id;
    private String url;
    private String secret;

    /** Connects a source of calls of the table's name with one receiver. */
    public TestReceiver(TestServer server, TestUser editor, String table, Map<String, Object> definition) {
        this(server, editor, connected(editor, table), table, definition);
    }

    /** @param source of calls */
    public TestReceiver(TestServer server, TestUser editor, long source, String table, Map<String, Object> definition) {
        this.server = server;
        this.editor = editor;
        this.table = table;
        this.source = source;
        this.id = editor.post("/api/receivers", draft(definition, 0))
                .ok()
                .get("id")
                .asLong();
        this.url = "";
        this.secret = "";
        address(editor.post("/api/receivers/" + id + "/address/show", Map.of()).ok());
    }

    private static long connected(TestUser editor, String name) {
        return editor.post("/api/sources", Map.of("name", name, "address", Map.of("kind", "calls")))
                .ok()
                .get("id")
                .asLong();
    }

    /** @param columns each as {@code name TYPE}, or {@code name TYPE from}; without any, calls are samples */
    public static Map<String, Object> definition(Map<String, Object> check, String eventKey, String... columns) {
        Map<String, Object> definition = new HashMap<>();
        definition.put("check", check);
        definition.put("records", "");
        definition.put(
                "columns", Arrays.stream(columns).map(TestReceiver::column).toList());
        definition.put("eventKey", eventKey);
        definition.put("several", EVERY_CALL_ADDS);
        definition.put("zone", "UTC");
        definition.put("keepDays", 0);
        definition.put("callsPerMinute", 60_000);
        definition.put("mostKilobytes", 64);
        return definition;
    }

    /** @param removes words of the change column; without any there is none */
    public static Map<String, Object> latestPerKey(String key, String orderBy, String change, String... removes) {
        return Map.of(
                "kind",
                "latest-per-key",
                "keys",
                List.of(key),
                "orderBy",
                orderBy,
                "change",
                change,
                "removes",
                List.of(removes));
    }

    private static Map<String, Object> column(String text) {
        List<String> parts = List.of(text.split(" ", 3));
        return Map.of(
                "name",
                parts.get(0),
                "from",
                parts.size() > 2 ? parts.get(2) : parts.get(0),
                "type",
                parts.get(1),
                "spelling",
                "");
    }

    public Map<String, Object> draft(Map<String, Object> definition, int basedOn) {
        return Map.of("name", table, "sourceId", source, "table", table, "definition", definition, "basedOn", basedOn);
    }

    public long id() {
        return id;
    }

    /** Where it is called, at the server that is tested. */
    public URI url() {
        return server.address().resolve(url);
    }

    public long source() {
        return source;
    }

    public String secret() {
        return secret;
    }

    /** Takes over what a tool would be given. */
    public void address(JsonNode address) {
        // The server may be asked by another name than the one it listens at.
        url = URI.create(address.get("url").asString()).getPath();
        secret = address.get("secret").asString();
    }

    public JsonNode view() {
        return editor.get("/api/receivers/" + id).ok();
    }

    /** Saves another definition, and waits until the table shows the calls by it. */
    public void change(Map<String, Object> definition) {
        editor.put(
                        "/api/receivers/" + id,
                        draft(definition, view().get("revision").asInt()))
                .ok();
        settled();
    }

    /** Waits until every call is laid out, and the table shows that. */
    public void settled() {
        Awaited.until(
                "the calls to be laid out",
                () -> view().get("counts").get("waiting").asLong() == 0
                        && !view().get("layingOut").asBoolean());
    }

    /** Calls as the tool would that has no secret. */
    public HttpResponse<String> call(String body, String... headers) {
        return call(body.getBytes(StandardCharsets.UTF_8), headers);
    }

    public HttpResponse<String> call(byte[] body, String... headers) {
        HttpRequest.Builder request = HttpRequest.newBuilder(server.address().resolve(url))
                .POST(HttpRequest.BodyPublishers.ofByteArray(body));
        if (Arrays.stream(headers).noneMatch(name -> name.equalsIgnoreCase("Content-Type"))) {
            request.header("Content-Type", "application/json");
        }
        for (int i = 0; i < headers.length; i += 2) {
            request.header(headers[i], headers[i + 1]);
        }
        return send(request.build());
    }

    public HttpResponse<String> send(HttpRequest request) {
        try {
            return HTTP.send(request, HttpResponse.BodyHandlers.ofString());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted", e);
        }
    }

    /** Calls, signed as Standard Webhooks says. */
    public HttpResponse<String> signed(String event, String body, Instant at) {
        String stamp = Long.toString(at.getEpochSecond());
        byte[] key = Base64.getDecoder().decode(secret.substring("whsec_".length()));
        String signature =
                Base64.getEncoder().encodeToString(hmac("HmacSHA256", key, event + "." + stamp + "." + body));
        return call(body, "webhook-id", event, "webhook-timestamp", stamp, "webhook-signature", "v1," + signature);
    }

    public static byte[] hmac(String algorithm, byte[] key, String text) {
        try {
            Mac mac = Mac.getInstance(algorithm);
            mac.init(new SecretKeySpec(key, algorithm));
            return mac.doFinal(text.getBytes(StandardCharsets.UTF_8));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Rows as the login of datasets sees them, once every call is laid out. */
    public String rows(String columns) {
        settled();
        return server.cluster()
                .text(
                        server.database(),
                        "select coalesce(string_agg(concat_ws(' ', " + columns + "), ', ' order by " + columns
                                + "), 'none') from landed." + table);
    }

    /** Calls as {@code VERDICT rows problem}, the latest first. */
    public List<String> calls() {
        return calls(Optional.empty());
    }

    public List<String> calls(Optional<String> verdict) {
        return editor.get("/api/receivers/" + id + "/calls"
                        + verdict.map(one -> "?verdict=" + one).orElse(""))
                .ok()
                .valueStream()
                .map(one -> (one.get("verdict").asString() + " "
                                + one.get("rows").asInt() + " "
                                + one.get("problem").asString())
                        .strip())
                .toList();
    }

    /** Ids of calls, the latest first. */
    public List<Long> callIds() {
        return editor.get("/api/receivers/" + id + "/calls")
                .ok()
                .valueStream()
                .map(one -> one.get("id").asLong())
                .toList();
    }
}

package remitto.demo.history;

import java.io.IOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** A person at Purser's desk, and the hand on its clock. */
public final class Desk {
    private final HttpClient http = HttpClient.newHttpClient();
    private final URI base;

    public Desk(URI base) {
        this.base = base;
    }

    /** Ends every sign-in of a person. */
    public void endLogins() {
        send(HttpRequest.newBuilder(base.resolve("/control/logins")).DELETE());
    }

    public void clear() {
        send(HttpRequest.newBuilder(base.resolve("/control/data")).DELETE());
    }

    /** Remembers every record as it is now. */
    public void keep() {
        send(put("/control/data/kept", ""));
    }

    /** Every record is as it was when they were kept. */
    public void back() {
        send(HttpRequest.newBuilder(base.resolve("/control/data/kept")).POST(HttpRequest.BodyPublishers.noBody()));
    }

    public void setClock(Optional<Instant> at) {
        send(put("/control/clock", "{\"at\":\"" + at.map(Instant::toString).orElse("") + "\"}"));
    }

    public void limit(boolean on) {
        send(put("/control/limit", "{\"on\":" + on + "}"));
    }

    /** @param faults JSON array as the fault panel takes it */
    public void faults(String faults) {
        send(put("/control/faults", faults));
    }

    public String calls(long since) {
        return send(HttpRequest.newBuilder(base.resolve("/control/calls?since=" + since))
                .GET());
    }

    /** The id of the first record in a list that is found by a text. */
    public Optional<String> find(String object, String text) {
        String page = send(HttpRequest.newBuilder(base.resolve("/desk/" + object + "?find=" + encode(text)))
                .GET());
        Matcher link = Pattern.compile("/desk/" + object + "/(\\d+)\"").matcher(page);
        return link.find() ? Optional.of(link.group(1)) : Optional.empty();
    }

    public String page(String object, String id) {
        return send(HttpRequest.newBuilder(base.resolve("/desk/" + object + "/" + id))
                .GET());
    }

    public void edit(String object, String id, Map<String, String> fields) {
        form("/desk/" + object + "/" + id, fields);
    }

    /** What a control address answers. */
    public String get(String path) {
        return send(HttpRequest.newBuilder(base.resolve(path)).GET());
    }

    /** Somebody at the desk adds a record. */
    public void add(String object, Map<String, String> fields) {
        form("/desk/" + object, fields);
    }

    /** Somebody at the desk deletes a record. */
    public void delete(String object, String id) {
        form("/desk/" + object + "/" + id + "/delete", Map.of());
    }

    /**
     * Whoever runs the CRM changes a field.
     *
     * @param change remove, shrink, require, relax, lock, drop-choice, add-choice
     */
    public void changeField(String object, String field, String change, String value) {
        send(put(
                "/control/schema",
                "{\"object\":\"%s\",\"field\":\"%s\",\"change\":\"%s\",\"value\":\"%s\"}"
                        .formatted(object, field, change, value)));
    }

    private void form(String path, Map<String, String> fields) {
        String form = fields.entrySet().stream()
                .map(entry -> encode(entry.getKey()) + "=" + encode(entry.getValue()))
                .collect(Collectors.joining("&"));
        HttpRequest.Builder request = HttpRequest.newBuilder(base.resolve(path))
                .header("Content-Type", "application/x-www-form-urlencoded")
                .POST(HttpRequest.BodyPublishers.ofString(form));
        answered(request, 400);
    }

    private HttpRequest.Builder put(String path, String body) {
        return HttpRequest.newBuilder(base.resolve(path)).PUT(HttpRequest.BodyPublishers.ofString(body));
    }

    private static String encode(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    private String send(HttpRequest.Builder request) {
        return answered(request, 300);
    }

    private String answered(HttpRequest.Builder request, int bad) {
        try {
            HttpResponse<String> response = http.send(request.build(), HttpResponse.BodyHandlers.ofString());
            if (response.statusCode() >= bad) {
                throw new IllegalStateException(
                        "the stand-in answered " + response.statusCode() + ": " + response.body());
            }
            return response.body();
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted", e);
        }
    }
}

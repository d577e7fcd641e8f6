package remitto.connect.profile;

import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import remitto.connect.profile.ProfileBench.Reading;
import remitto.connect.profile.ProfileBench.Seen;

/** Keeps calls, and hides in them what must not be shown. */
final class BenchRecorder implements CallWatcher {
    private static final String HIDDEN = "•••";
    private static final List<String> TOLD = List.of("content-type", "retry-after", "link", "location");

    /** What is shorter is found in too many other places. */
    private static final int SHORTEST = 4;

    private final Set<String> secrets;
    private final List<Seen> calls = new ArrayList<>();
    private final boolean make;
    private boolean writing;

    /**
     * @param secrets as they are stored, whatever the text on the bench says is one
     * @param make false to keep writing calls back
     */
    BenchRecorder(Set<String> secrets, boolean make) {
        this.secrets = Set.copyOf(secrets);
        this.make = make;
    }

    List<Seen> calls() {
        return List.copyOf(calls);
    }

    /** From here on calls are kept back, if nothing is to be sent. */
    void writing() {
        writing = true;
    }

    @Override
    public boolean calling(HttpRequest request, byte[] body) {
        calls.add(seen(request, body));
        return make || !writing;
    }

    @Override
    public void answered(HttpRequest request, Reply reply, Duration took) {
        Seen asked = calls.remove(calls.size() - 1);
        Map<String, String> headers = new LinkedHashMap<>();
        TOLD.forEach(name -> {
            List<String> values = reply.headers().getOrDefault(name, List.of());
            if (!values.isEmpty()) {
                headers.put(name, hidden(String.join(", ", values)));
            }
        });
        calls.add(new Seen(
                asked.method(),
                asked.address(),
                asked.headers(),
                asked.body(),
                reply.status(),
                headers,
                hidden(reply.text()),
                took.toMillis()));
    }

    private Seen seen(HttpRequest request, byte[] body) {
        Map<String, String> headers = new LinkedHashMap<>();
        request.headers()
                .map()
                .forEach((name, values) -> headers.put(
                        name, name.equalsIgnoreCase("Authorization") ? HIDDEN : hidden(String.join(", ", values))));
        return new Seen(
                request.method(),
                hidden(request.uri().toString()),
                headers,
                hidden(new String(body, StandardCharsets.UTF_8)),
                0,
                Map.of(),
                "",
                0);
    }

    Reading hidden(Reading reading) {
        return new Reading(
                hidden(reading.sentence()),
                reading.columns(),
                reading.rows().stream()
                        .map(row -> row.stream().map(this::hidden).toList())
                        .toList(),
                hidden(reading.more()));
    }

    /** Secrets, and tokens in answers, are not shown. */
    String hidden(String text) {
        String out = text.replaceAll("(\"(?:access|refresh|id)_token\"\\s*:\\s*\")[^\"]*", "$1" + HIDDEN);
        for (String secret : secrets) {
            if (secret.length() >= SHORTEST) {
                out = out.replace(secret, HIDDEN);
            }
        }
        return out;
    }
}

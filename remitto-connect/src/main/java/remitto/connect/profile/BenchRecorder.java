package remitto.connect.profile;

import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import remitto.connect.profile.ProfileBench.Seen;
import remitto.connect.signin.Login;

/** Keeps calls, and hides in them what must not be shown. */
final class BenchRecorder implements CallWatcher {
    private static final String HIDDEN = "•••";
    private static final List<String> TOLD = List.of("content-type", "retry-after", "link", "location");

    private final Profile profile;
    private final Login login;
    private final List<Seen> calls = new ArrayList<>();
    private final boolean make;
    private boolean writing;

    /** @param make false to keep writing calls back */
    BenchRecorder(Profile profile, Login login, boolean make) {
        this.profile = profile;
        this.login = login;
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

    /** Secret settings, and tokens in answers, are not shown. */
    private String hidden(String text) {
        String out = text.replaceAll("(\"(?:access|refresh|id)_token\"\\s*:\\s*\")[^\"]*", "$1" + HIDDEN);
        for (Profile.Setting setting : profile.connection()) {
            String secret = login.setting(setting.name());
            if (setting.isSecret() && secret.length() > 3) {
                out = out.replace(secret, HIDDEN);
            }
        }
        return out;
    }
}

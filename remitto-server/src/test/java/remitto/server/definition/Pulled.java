package remitto.server.definition;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Files as a repository would hold them, and what somebody asks for with them. */
final class Pulled {
    private final SortedMap<String, String> texts;
    private final Map<String, Object> asked = new HashMap<>();

    private Pulled(SortedMap<String, String> texts) {
        this.texts = texts;
        asked.put("inService", false);
        asked.put("remove", false);
        asked.put("leave", List.of());
        asked.put("names", Map.of());
        asked.put("secrets", Map.of());
        asked.put("note", "from files");
    }

    static Pulled of(Map<String, String> texts) {
        return new Pulled(new TreeMap<>(texts));
    }

    /** All that an installation holds, as it was saved last. */
    static Pulled pulledBy(TestUser user) {
        return pulledBy(user, "/api/definitions");
    }

    static Pulled pulledBy(TestUser user, String path) {
        SortedMap<String, String> texts = new TreeMap<>();
        user.get(path)
                .ok()
                .forEach(file ->
                        texts.put(file.get("path").asString(), file.get("text").asString()));
        return new Pulled(texts);
    }

    SortedMap<String, String> texts() {
        return texts;
    }

    String text(String path) {
        return Optional.ofNullable(texts.get(path)).orElseThrow(() -> new AssertionError("no file " + path));
    }

    /** The first file whose path begins so. */
    String path(String begin) {
        return texts.keySet().stream()
                .filter(path -> path.startsWith(begin))
                .findFirst()
                .orElseThrow();
    }

    Pulled with(String path, String text) {
        Pulled other = copy();
        other.texts.put(path, text);
        return other;
    }

    /** @param from what stands in the file */
    Pulled changed(String path, String from, String to) {
        String before = text(path);
        if (!before.contains(from)) {
            throw new AssertionError(path + " does not say " + from + ":\n" + before);
        }
        return with(path, before.replace(from, to));
    }

    Pulled without(String path) {
        Pulled other = copy();
        if (other.texts.remove(path) == null) {
            throw new AssertionError("no file " + path);
        }
        return other;
    }

    Pulled inService() {
        return asking("inService", true);
    }

    Pulled removing() {
        return asking("remove", true);
    }

    Pulled asking(String what, Object value) {
        Pulled other = copy();
        other.asked.put(what, value);
        return other;
    }

    private Pulled copy() {
        Pulled other = new Pulled(new TreeMap<>(texts));
        other.asked.putAll(asked);
        return other;
    }

    Map<String, Object> body() {
        List<Map<String, String>> files = new ArrayList<>();
        texts.forEach((path, text) -> files.add(Map.of("path", path, "text", text)));
        Map<String, Object> body = new HashMap<>(asked);
        body.put("files", files);
        return body;
    }

    JsonNode planned(TestUser user) {
        return user.post("/api/definitions/plan", body()).ok();
    }

    TestUser.Answer applied(TestUser user) {
        return user.post("/api/definitions/apply", body());
    }

    /** What becomes of which file, a line each. */
    static List<String> acts(JsonNode plan) {
        return plan.get("changes")
                .valueStream()
                .map(change ->
                        change.get("act").asString() + " " + change.get("path").asString())
                .toList();
    }

    /** What is wrong, a line each. */
    static List<String> faults(JsonNode plan) {
        return plan.get("faults")
                .valueStream()
                .map(fault -> fault.get("path").asString() + ":"
                        + fault.get("line").asInt() + " " + fault.get("message").asString())
                .toList();
    }
}

package remitto.connect.profile;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.destination.FieldKind;
import tools.jackson.databind.JsonNode;

/**
 * How a destination's HTTP API works. Places in answers are JSON Pointers (RFC 6901); in bodies a text that is
 * exactly {@code "{name}"} is replaced by a value, in paths {@code {name}} by its text.
 */
public record Profile(
        String profile,
        String title,
        Confirm confirm,
        Optional<Integer> showsWritesAfterSeconds,
        List<Setting> connection,
        Authentication authentication,
        Limits limits,
        Optional<List<Integer>> retryStatus,
        Optional<String> problemMessage,
        Call check,
        Objects objects,
        Fields fields,
        Find find,
        Write add,
        Write update,
        Write remove,
        Results results) {

    /** How the outcome of a write that got no answer is found out. */
    public enum Confirm {
        KEY,
        READBACK,
        NONE
    }

    public record Setting(String name, String label, Optional<String> example, Optional<Boolean> secret) {
        public boolean isSecret() {
            return secret.orElse(false);
        }
    }

    public record Authentication(String kind, String tokenPath, String clientId, String clientSecret) {}

    public record Limits(
            int calls,
            int periodSeconds,
            int concurrency,
            int recordsPerCall,
            int bytesPerCall,
            int longestCallSeconds) {}

    public record Call(String method, String path) {}

    public record Objects(
            String method, String path, String items, String name, Optional<String> title, Optional<String> people) {}

    public record Fields(
            String method,
            String path,
            String items,
            String name,
            Optional<String> title,
            String kind,
            Optional<String> required,
            Optional<String> unique,
            Optional<String> readOnly,
            Optional<String> writable,
            Optional<String> custom,
            Optional<String> maxLength,
            Optional<String> choices,
            Map<String, FieldKind> kinds) {}

    public record Find(String method, String path, JsonNode body, String items, String id, String fields) {}

    public record Write(String method, String path, JsonNode body, JsonNode record) {}

    public record Results(
            String items,
            Optional<String> position,
            String outcome,
            List<String> accepted,
            Optional<List<String>> movedOn,
            String id,
            Optional<String> problems,
            Optional<String> problemField,
            Optional<String> problemMessage) {}

    public boolean retriable(int status) {
        return retryStatus.orElse(List.of(429, 500, 502, 503, 504)).contains(status);
    }
}

package remitto.connect.profile;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import tools.jackson.databind.JsonNode;

/**
 * What a tool answered.
 *
 * @param headers by name in lower case
 * @param retryAfter how long the tool asks to wait
 */
record Reply(int status, Map<String, List<String>> headers, JsonNode body, String text, Optional<Duration> retryAfter) {
    boolean throttled() {
        return status == 429 || status == 503;
    }
}

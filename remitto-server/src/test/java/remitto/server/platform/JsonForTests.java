package remitto.server.platform;

import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** The JSON mapping without an application around it. */
public final class JsonForTests {
    private JsonForTests() {}

    public static Json json() {
        return new Json(JsonMapper.builder()
                .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
                .build());
    }
}

package remitto.server.lineage;

import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** Whether lineage is told, and to whom. */
@Component
class LineageSettings {
    private final String url;
    private final String key;
    private final String namespace;

    /**
     * @param url that events are posted to; blank for nobody
     * @param key sent as a bearer token; blank for none
     * @param namespace that the jobs of this installation are in
     */
    LineageSettings(
            @Value("${remitto.lineage.url:}") String url,
            @Value("${remitto.lineage.key:}") String key,
            @Value("${remitto.lineage.namespace:remitto}") String namespace) {
        this.url = url.strip();
        this.key = key.strip();
        this.namespace = namespace.strip();
    }

    boolean isOn() {
        return !url.isEmpty();
    }

    String url() {
        return url;
    }

    String key() {
        return key;
    }

    String namespace() {
        return namespace;
    }
}

package remitto.demo.history;

import java.util.List;
import java.util.Map;

/** What people did on the last day besides sending: a profile changed but not yet in service, a conflict settled. */
final class SecondThoughts {
    private final Api editor;

    SecondThoughts(Api editor) {
        this.editor = editor;
    }

    /** Smaller calls to Lamplight are tried out on the bench; nobody has put them in service. */
    void changeAProfile() {
        String text = editor.get("/api/profiles/lamplight-ads").get("text").asString();
        editor.post(
                "/api/profiles/lamplight-ads/versions",
                Map.of(
                        "basedOn",
                        1,
                        "text",
                        text.replace("records_per_call: 500", "records_per_call: 250"),
                        "note",
                        "smaller calls, so that a refused one is split sooner"));
    }

    /** Who writes a field that two routes know, record by record. */
    void order(long destination, String field, List<Long> routes) {
        editor.put(
                "/api/destinations/" + destination + "/objects/contact/book/" + field + "/order",
                Map.of("routeIds", routes));
    }
}

package remitto.demo.history;

import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;

/** The datasets of Halvorn Ferries that describe people, their columns tied as they are suggested, and the first joining. */
public final class PeopleSetUp {
    private static final String TICKETS =
            "select customer_no, given_name, family_name, email, phone, country, birth_date, updated_at from ferry.customers";
    private static final String PASSES =
            "select pass_number, given_name, family_name, email, phone, country, birth_date,"
                    + " updated_at from ferry.pass_holders";
    private static final String WIFI =
            "select signup_no, full_name, email, phone, signed_up_at as updated_at from ferry.wifi_signups";
    private static final String NEWSLETTER =
            "select signup_no, full_name, email, signed_up_at as updated_at from ferry.newsletter_signups";

    private final Api editor;
    private final Scenario scenario;

    public PeopleSetUp(Api editor, Scenario scenario) {
        this.editor = editor;
        this.scenario = scenario;
    }

    /** The ids of the four datasets, by the name the truth has for them. */
    public Map<String, Long> setUp(long source) {
        Map<String, Long> datasets = Map.of(
                "pass",
                        dataset(
                                source,
                                "Pass office people",
                                "Everybody who holds or held a pass",
                                PASSES,
                                "pass_number"),
                "ticketing",
                        dataset(source, "Ticketing people", "Everybody who bought a ticket", TICKETS, "customer_no"),
                "wifi", dataset(source, "Wi-Fi sign-ups", "Who signed up for Wi-Fi on board", WIFI, "signup_no"),
                "newsletter",
                        dataset(
                                source,
                                "Newsletter sign-ups",
                                "Who signed up for the newsletter",
                                NEWSLETTER,
                                "signup_no"));
        for (String system : List.of("pass", "ticketing", "wifi", "newsletter")) {
            long id = datasets.get(system);
            JsonNode tied = editor.get("/api/people/sources/" + id + "/suggestion");
            editor.put(
                    "/api/people/sources/" + id,
                    Map.of(
                            "columns",
                            tied.get("columns"),
                            "country",
                            "NO",
                            "countryColumn",
                            tied.get("countryColumn")));
        }
        return datasets;
    }

    private long dataset(long source, String name, String description, String sql, String key) {
        return scenario.dataset(source, name, description, sql, Map.of(key, "KEY", "updated_at", "UPDATED_AT"));
    }

    /** Joins the records and waits until that is done. */
    public JsonNode join() {
        editor.post("/api/people/runs", Map.of());
        return editor.until("/api/people/overview", seen -> seen.get("latest").has("finishedAt"));
    }
}

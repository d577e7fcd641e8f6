package remitto.demo.history;

import java.net.URI;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.fieldrule.Written;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.NormaliseEmail;
import remitto.core.timetable.Schedule;
import tools.jackson.databind.JsonNode;

/** The ticket shop calls when somebody signs up there: a receiver for it, a week of sign-ups, and those who want letters put on the list of the mailing tool. */
final class ShopSetUp {
    private static final List<String> GIVEN = List.of("Signe", "Tor", "Maren", "Eirik", "Solveig", "Nils", "Astrid");
    private static final List<String> FAMILY = List.of("Havnes", "Brekke", "Tangvald", "Sjøli");
    private static final List<String> PORTS = List.of("Tarva", "Ytre Holm", "Sandvær");
    private static final int SIGN_UPS = 21;

    private final Api editor;
    private final Scenario scenario;
    private final Api shop;

    /** @param pages address of the shop */
    ShopSetUp(Api editor, Scenario scenario, String pages) {
        this.editor = editor;
        this.scenario = scenario;
        this.shop = new Api(URI.create(pages));
    }

    /** @param letters destination that letters are sent from */
    void setUp(long letters, Instant now) {
        long source = Scenario.id(
                editor.post("/api/sources", Map.of("name", "Calls of partners", "address", Map.of("kind", "calls"))));
        long receiver = Scenario.id(editor.post("/api/receivers", receiver(source)));
        JsonNode address = editor.post("/api/receivers/" + receiver + "/address/show", Map.of());
        shop.post(
                "/control/listener",
                Map.of(
                        "url",
                        address.get("url").asString(),
                        "secret",
                        address.get("secret").asString()));
        shop.post("/control/sign-ups", signUps(now));
        awaitLaidOut(receiver);
        long dataset = scenario.dataset(
                source,
                "Shop sign-ups",
                "Who signed up in the ticket shop and wants letters",
                "select no, given, family, mail, port, signed_up_at from landed.shop_sign_ups where newsletter",
                Map.of("no", "KEY", "mail", "IDENTIFIER", "signed_up_at", "UPDATED_AT"));
        scenario.route("Shop sign-ups, letters", dataset, letters, "person", spec());
    }

    private static Map<String, Object> receiver(long source) {
        Map<String, Object> definition = new HashMap<>();
        definition.put("check", Map.of("kind", "standard-webhooks"));
        definition.put("records", "");
        definition.put(
                "columns",
                List.of(
                        column("no", "person.no", "TEXT"),
                        column("given", "person.given", "TEXT"),
                        column("family", "person.family", "TEXT"),
                        column("mail", "person.mail", "TEXT"),
                        column("port", "person.port", "TEXT"),
                        column("newsletter", "person.newsletter", "BOOLEAN"),
                        column("signed_up_at", "at", "TIMESTAMP")));
        definition.put("eventKey", "");
        definition.put(
                "several",
                Map.of(
                        "kind", "latest-per-key",
                        "keys", List.of("no"),
                        "orderBy", "signed_up_at",
                        "change", "",
                        "removes", List.of()));
        definition.put("zone", "Europe/Oslo");
        definition.put("keepDays", 365);
        definition.put("callsPerMinute", 6_000);
        definition.put("mostKilobytes", 64);
        return Map.of(
                "name",
                "Ticket shop, sign-ups",
                "sourceId",
                source,
                "table",
                "shop_sign_ups",
                "basedOn",
                0,
                "definition",
                definition);
    }

    private static Map<String, Object> column(String name, String from, String type) {
        return Map.of("name", name, "from", from, "type", type, "spelling", "");
    }

    /** Three a day up to now. */
    private static List<Map<String, Object>> signUps(Instant now) {
        List<Map<String, Object>> all = new ArrayList<>();
        for (int i = 0; i < SIGN_UPS; i++) {
            String given = GIVEN.get(i % GIVEN.size());
            String family = FAMILY.get(i % FAMILY.size());
            all.add(Map.of(
                    "no",
                    "",
                    "at",
                    now.minus(Duration.ofHours(8L * (SIGN_UPS - i))).toString(),
                    "given",
                    given,
                    "family",
                    family,
                    "mail",
                    "shop." + i + "@brygge.example",
                    "port",
                    PORTS.get(i % PORTS.size()),
                    "newsletter",
                    i % 3 != 0,
                    "told",
                    false));
        }
        return all;
    }

    private void awaitLaidOut(long receiver) {
        try {
            while (counts(receiver).get("lastDay").asInt() < SIGN_UPS
                    || counts(receiver).get("waiting").asInt() > 0) {
                TimeUnit.MILLISECONDS.sleep(50);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private JsonNode counts(long receiver) {
        return editor.get("/api/receivers/" + receiver).get("counts");
    }

    private static RouteSpec spec() {
        return RouteSpec.of(
                        Mode.ADD_OR_UPDATE,
                        List.of("mail"),
                        List.of(
                                Scenario.from("mail", "mail", new NormaliseEmail(false))
                                        .ifEmpty(IfEmpty.HOLD_RECORD),
                                Scenario.from("given", "given"),
                                Scenario.from("family", "family"),
                                Scenario.from("port", "port"),
                                FieldRule.of("standing", new Receives.Fixed("subscribed"))
                                        .written(Written.WHEN_CREATING)),
                        new Basis.Stated("asked for when signing up in the ticket shop"),
                        Guards.defaults(),
                        new Schedule.OnChange("Europe/Oslo"))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }
}

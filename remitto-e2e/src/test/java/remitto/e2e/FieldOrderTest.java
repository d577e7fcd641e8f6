package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.UpperCase;
import tools.jackson.databind.JsonNode;

/** Two routes write one field by different rules, in an order that a person settled. */
class FieldOrderTest extends RouteRunsFixture {
    private long later;

    FieldOrderTest() {
        super(60);
    }

    @BeforeEach
    void twoRoutes() {
        putInService(ids.passes(), passes());
        later = editor.post(
                        "/api/routes/" + ids.passes() + "/copy",
                        Map.of("name", "Loud names", "destinationId", ids.purser(), "object", "contact"))
                .get("id")
                .asLong();
        List<FieldRule> rules = new java.util.ArrayList<>(passes().rules());
        rules.removeIf(rule -> rule.field().equals("given_name"));
        rules.add(FieldRule.of("given_name", new Receives.FromColumn("given_name"), new UpperCase()));
        RouteSpec loud = passes().rules(rules);
        putInService(later, loud);
    }

    private JsonNode order(long... routes) {
        return editor.put(
                "/api/destinations/" + ids.purser() + "/objects/contact/book/given_name/order",
                Map.of("routeIds", java.util.Arrays.stream(routes).boxed().toList()));
    }

    private static JsonNode field(JsonNode book) {
        return book.get("fields")
                .valueStream()
                .filter(one -> one.get("field").get("name").asString().equals("given_name"))
                .findFirst()
                .orElseThrow();
    }

    private Optional<JsonNode> decided(JsonNode run, String key) {
        return lines(run, "").stream()
                .filter(line -> line.get("key").asString().equals(key))
                .flatMap(line -> line.get("fields").valueStream())
                .filter(one -> one.get("field").asString().equals("given_name"))
                .findFirst();
    }

    private String there(String key) {
        return there("contact", "external_ref", "given_name").get(key);
    }

    @Test
    void theFirstInTheOrderKeepsWhatItWroteAndMayTakeItOver() {
        JsonNode book = editor.get("/api/destinations/" + ids.purser() + "/objects/contact/book");
        assertThat(field(book).get("conflict").get("settled").asBoolean()).isFalse();
        JsonNode settled = field(order(ids.passes(), later));
        assertThat(settled.get("conflict").get("settled").asBoolean()).isTrue();
        assertThat(settled.get("conflict").get("text").asString())
                .endsWith("in the order Commuter passes, then Loud names");

        JsonNode first = run(ids.passes());
        String key = lines(first, "&verdict=ADDED").get(0).get("key").asString();
        String name = there(key);
        JsonNode second = prepare(later);
        assertThat(sum(second, "changed")).isZero();
        assertThat(there(key)).isEqualTo(name);
        JsonNode followed = editor.post(
                "/api/routes/record-preview",
                Map.of(
                        "routeId",
                        later,
                        "key",
                        key,
                        "ends",
                        Map.of("datasetId", dataset(later), "destinationId", ids.purser(), "object", "contact"),
                        "spec",
                        editorSpec(later)));
        assertThat(followed.toString())
                .contains("kept: route Commuter passes has priority for this field and wrote it");

        order(later, ids.passes());
        JsonNode loud = run(later);
        assertThat(sum(loud, "changed")).isPositive();
        assertThat(decided(loud, key).orElseThrow().get("outcome").asString()).isEqualTo("WRITTEN");
        assertThat(there(key)).isEqualTo(name.toUpperCase(java.util.Locale.ROOT));
        JsonNode quiet = prepare(ids.passes());
        assertThat(sum(quiet, "changed")).isZero();

        assertThat(field(order()).has("order")).isFalse();
        JsonNode again = run(ids.passes());
        JsonNode overwritten = decided(again, key).orElseThrow();
        assertThat(overwritten.get("outcome").asString()).isEqualTo("WRITTEN");
        assertThat(overwritten.get("otherRoute").asString())
                .as("the manifest says whose value it overwrites")
                .isEqualTo("Loud names");
        assertThat(decided(loud, key).orElseThrow().get("otherRoute").asString())
                .isEqualTo("Commuter passes");
        assertThat(decided(first, key).orElseThrow().get("otherRoute").asString())
                .as("nobody wrote it before")
                .isEmpty();
        assertThat(there(key)).isEqualTo(name);
    }

    @Test
    void theLaterRouteWritesOnceTheEarlierLetsGoThoughItsOwnRowIsAsItWas() {
        order(ids.passes(), later);
        JsonNode first = run(ids.passes());
        String key = lines(first, "&verdict=ADDED").get(0).get("key").asString();
        String name = there(key);
        run(later);
        assertThat(there(key)).isEqualTo(name);
        assertThat(sum(run(later), "changed")).as("nothing was let go").isZero();

        List<FieldRule> rules = new java.util.ArrayList<>(passes().rules());
        rules.removeIf(rule -> rule.field().equals("given_name"));
        rules.add(FieldRule.of("given_name", new Receives.Fixed("")).ifEmpty(IfEmpty.CLEAR));
        putInService(ids.passes(), passes().rules(rules));
        run(ids.passes());
        assertThat(there(key)).as("the earlier one cleared it").isIn("", null);

        JsonNode loud = run(later);
        assertThat(sum(loud, "changed")).isPositive();
        assertThat(there(key)).isEqualTo(name.toUpperCase(java.util.Locale.ROOT));
    }

    private long dataset(long route) {
        return editor.get("/api/routes/" + route).get("datasetId").asLong();
    }

    @Test
    void anOrderTakesTheOwnersPlaceAndNeedsTwoRoutesThatWriteTheField() {
        editor.put(
                "/api/destinations/" + ids.purser() + "/objects/contact/book/given_name/owner",
                Map.of("routeId", later));
        assertThat(field(order(ids.passes(), later)).has("owner")).isFalse();
        assertThatThrownBy(() -> order(later)).hasMessageContaining("at least two routes");
        assertThatThrownBy(() -> editor.put(
                        "/api/destinations/" + ids.purser() + "/objects/contact/book/phone/order",
                        Map.of("routeIds", List.of(ids.passes(), later))))
                .hasMessageContaining("has no rule for phone");
    }
}

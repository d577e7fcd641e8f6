package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A destination that changes under a route. */
class DestinationChangesTest extends RouteRunsFixture {
    DestinationChangesTest() {
        super(300);
    }

    @Test
    void aFieldThatChangesThereStopsOnlyWhatItTouches() {
        run(ids.freight());
        stack.desk.changeField("company", "freight_class", "remove", "");
        stack.desk.changeField("company", "city", "shrink", "7");
        stack.change("update ferry.freight_companies set credit_limit = credit_limit + 1");
        stack.server().clock().set(java.time.Instant.now().plusSeconds(120));
        JsonNode run = prepare(ids.freight());
        assertThat(sum(run, "changed")).as("the other fields go on").isGreaterThan(10);
        assertThat(lines(run, "&verdict=CHANGED")).allSatisfy(line -> line.get("fields")
                .forEach(field -> assertThat(field.get("field").asString()).isNotEqualTo("freight_class")));
        List<String> changes = new ArrayList<>();
        editor.get("/api/departures").get("changes").forEach(change -> {
            changes.add(change.get("text").asString());
            assertThat(change.get("affected").asLong()).isPositive();
        });
        assertThat(changes)
                .containsExactlyInAnyOrder("freight_class no longer exists", "city takes 7 characters now, was 60");

        stack.desk.changeField("company", "country", "require", "");
        describedAgain();
        assertThat(open()).contains("country is required now").hasSize(3);
        stack.desk.changeField("company", "city", "shrink", "5");
        stack.desk.changeField("company", "country", "relax", "");
        describedAgain();
        assertThat(open())
                .as("one card a cause, and none for what is over")
                .containsExactlyInAnyOrder("freight_class no longer exists", "city takes 5 characters now, was 7");
    }

    private void describedAgain() {
        stack.server().clock().set(stack.server().clock().instant().plusSeconds(120));
        prepare(ids.freight());
    }

    private List<String> open() {
        List<String> texts = new ArrayList<>();
        editor.get("/api/departures")
                .get("changes")
                .forEach(change -> texts.add(change.get("text").asString()));
        return texts;
    }
}

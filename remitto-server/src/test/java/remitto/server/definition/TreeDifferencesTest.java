package remitto.server.definition;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

class TreeDifferencesTest {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private static List<String> between(String before, String after) {
        return TreeDifferences.between((ObjectNode) JSON.readTree(before), (ObjectNode) JSON.readTree(after));
    }

    @Test
    void whatIsTheSameIsNoDifference() {
        assertThat(between("{\"a\": [1, {\"b\": 2}]}", "{\"a\": [1, {\"b\": 2}]}"))
                .isEmpty();
    }

    @Test
    void valuesAreToldWithTheirPlace() {
        assertThat(between("{\"a\": {\"b\": \"x\"}, \"c\": 1}", "{\"a\": {\"b\": \"\"}, \"d\": true}"))
                .containsExactly("a.b: x → empty", "c: 1 → nothing", "d: nothing → true");
    }

    @Test
    void itemsThatHaveANameAreComparedByIt() {
        assertThat(between(
                        "{\"rules\": [{\"field\": \"id\"}, {\"field\": \"town\", \"written\": \"once\"}]}",
                        "{\"rules\": [{\"field\": \"mail\"}, {\"field\": \"id\"}, {\"field\": \"town\"}]}"))
                .containsExactly("rules[town].written: once → nothing", "rules[mail]: added, {\"field\":\"mail\"}");
    }

    @Test
    void itemsWithoutANameAreComparedByTheirPlace() {
        assertThat(between(
                        "{\"steps\": [{\"at\": 1}, {\"at\": 2}]}",
                        "{\"steps\": [{\"at\": 1}, {\"at\": 3}, {\"at\": 4}]}"))
                .containsExactly("steps[2].at: 2 → 3", "steps[3]: added, {\"at\":4}");
    }

    @Test
    void anotherOrderIsADifference() {
        assertThat(between("{\"after\": [\"a\", \"b\"]}", "{\"after\": [\"b\", \"a\"]}"))
                .containsExactly("after: in another order");
    }

    @Test
    void aListThatComesOrGoesIsToldItemByItem() {
        assertThat(between("{}", "{\"after\": [\"a\"]}")).containsExactly("after[a]: added, a");
        assertThat(between("{\"after\": [\"a\"]}", "{}")).containsExactly("after[a]: removed, a");
    }

    @Test
    void ofLongTextsTheLinesThatDifferAreTold() {
        assertThat(between(
                        "{\"text\": \"select a,\\n  b\\nfrom t\\nwhere c\"}",
                        "{\"text\": \"select a,\\n  d,\\n  e\\nfrom t\\nwhere c\"}"))
                .containsExactly("text, line 2 - b", "text, line 2 + d,", "text, line 2 + e");
        assertThat(between("{\"text\": \"a\\nb\"}", "{\"text\": \"a\\r\\nb\"}"))
                .containsExactly("text: other line ends");
    }

    @Test
    void moreThanAnybodyReadsIsCounted() {
        StringBuilder before = new StringBuilder();
        StringBuilder after = new StringBuilder();
        for (int i = 0; i < 150; i++) {
            before.append(i == 0 ? "{" : ",").append("\"m").append(i).append("\": 1");
            after.append(i == 0 ? "{" : ",").append("\"m").append(i).append("\": 2");
        }
        assertThat(between(before + "}", after + "}")).hasSize(101).endsWith("and 50 more");
    }
}

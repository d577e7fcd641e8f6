package remitto.server.people.rule;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import org.junit.jupiter.api.Test;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.normalise.Nicknames;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import tools.jackson.databind.json.JsonMapper;

/** Weights as they were kept before it was kept what they rest on: each attribute by itself, read and weighed as then. */
class WeightsOfBeforeTest {
    private static final String KEPT = """
            {"records": 100,
             "levels": [
               {"attribute": "given_name", "best": [{"kind": "same"}, {"kind": "alike", "least": 0.9}, {"kind": "initial"}],
                "rare": false},
               {"attribute": "postcode", "best": [{"kind": "same"}, {"kind": "slips", "most": 1}], "rare": false}],
             "personal": [true, false],
             "strangers": {"start": -6.0, "m": [[0.8, 0.1, 0.05, 0.05], [0.9, 0.05, 0.05]],
                           "u": [[0.1, 0.1, 0.1, 0.7], [0.1, 0.1, 0.8]]},
             "mates": {"start": 1.0, "m": [[0.8, 0.1, 0.05, 0.05], [0.9, 0.05, 0.05]],
                       "u": [[0.1, 0.1, 0.1, 0.7], [0.9, 0.05, 0.05]]}}
            """;

    @Test
    void theyAreReadAndWeighAsTheyDid() {
        JsonMapper json = JsonMapper.builder().build();
        Weights weights = json.readValue(KEPT, Weights.class);
        assertThat(weights.basis()).isEmpty();
        assertThat(weights.inLightOf(1, 0)).isEmpty();
        assertThat(weights.hasHouseholds()).isTrue();

        RecordTable.Builder builder = new RecordTable.Builder(List.of(
                new Attribute("given_name", Attribute.Kind.GIVEN_NAME),
                new Attribute("postcode", Attribute.Kind.POSTCODE)));
        builder.add(new RecordRef("a", "1"), new String[] {"kari", "5003"});
        builder.add(new RecordRef("a", "2"), new String[] {"kari", "5003"});
        Scorer scorer = new Scorer(builder.build(), weights, Nicknames.shipped());
        // Against strangers -6 + 3 + log2(9), against a household 1 + 3 + 0: the less of the two.
        assertThat(scorer.weigh(0, 1)).isCloseTo(-6 + 3 + Math.log(9) / Math.log(2), within(1e-9));
    }

    /** What is kept now comes back the same. */
    @Test
    void whatTheyRestOnIsKept() {
        JsonMapper json = JsonMapper.builder().build();
        Weights before = json.readValue(KEPT, Weights.class);
        Weights again = json.readValue(json.writeValueAsString(before), Weights.class);
        assertThat(again.levels()).isEqualTo(before.levels());
        assertThat(again.strangers().m()).isDeepEqualTo(before.strangers().m());
        assertThat(again.basis()).isEmpty();
    }
}

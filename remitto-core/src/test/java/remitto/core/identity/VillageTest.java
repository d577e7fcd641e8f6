package remitto.core.identity;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.identity.compare.Levels;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.quality.Quality;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Attribute.Kind;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.ResolutionRules;

/** What was estimated must not hang on how many records there are, nor on households that are not there. */
class VillageTest {
    private record Joined(Weights weights, Quality quality) {}

    private static Joined joined(Village village) {
        RecordTable table = village.table();
        Resolution resolution = Resolution.of(table, ResolutionRules.usual(table.attributes()), new MatchOverrides());
        int[] truth = village.truth(resolution.table());
        return new Joined(
                resolution.found().weights(), Quality.of(resolution.groups().group(), truth));
    }

    private static double bits(Weights.Odds odds, Weights weights, String attribute, int level) {
        for (int i = 0; i < weights.levels().size(); i++) {
            if (weights.levels().get(i).attribute().equals(attribute)) {
                return odds.bits(i, level);
            }
        }
        throw new IllegalArgumentException(attribute);
    }

    /** Six times the records: place and contact weigh the same against a household, and precision stays. */
    @Test
    void whatAHouseholdSharesWeighsTheSameAtEverySize() {
        Joined small = joined(Village.of(4_000, 3, true));
        Joined large = joined(Village.of(24_000, 4, true));
        assertThat(small.weights().hasHouseholds()).isTrue();
        assertThat(large.weights().hasHouseholds()).isTrue();
        for (String shared : List.of("address", "postcode", "phone", "email", "family_name")) {
            assertThat(bits(large.weights().mates(), large.weights(), shared, 0))
                    .as(shared)
                    .isCloseTo(bits(small.weights().mates(), small.weights(), shared, 0), within(1.0));
        }
        assertThat(large.quality().precision()).isCloseTo(small.quality().precision(), within(0.01));
        assertThat(small.quality().f1()).isGreaterThan(0.95);
        assertThat(large.quality().f1()).isGreaterThan(0.95);
    }

    /** Where everybody is there once, two who live together are not taken for one. */
    @Test
    void familiesOfWhomNobodyIsThereTwiceStayApart() {
        Village village = Village.of(16_000, 11, true);
        RecordTable whole = village.table();
        int[] truth = village.truth(whole);
        Set<Integer> met = new HashSet<>();
        RecordTable.Builder builder = new RecordTable.Builder(whole.attributes());
        for (int record = 0; record < whole.size(); record++) {
            if (met.add(truth[record])) {
                String[] values = new String[whole.attributes().size()];
                for (int a = 0; a < values.length; a++) {
                    values[a] = whole.value(a, record);
                }
                builder.add(whole.ref(record), values);
            }
        }
        RecordTable once = builder.build();
        Resolution resolution = Resolution.of(once, ResolutionRules.usual(once.attributes()), new MatchOverrides());
        assertThat(resolution.groups().persons()).isGreaterThanOrEqualTo(once.size() - once.size() / 500);
    }

    /** Few records are no reason to know nothing: what cannot be counted is taken as usual. */
    @ParameterizedTest
    @ValueSource(ints = {120, 300, 700, 1_500})
    void fewRecordsAreJoinedAsWell(int records) {
        for (boolean families : new boolean[] {true, false}) {
            Quality quality = joined(Village.of(records, records + 1, families)).quality();
            assertThat(quality.precision()).as(records + " records").isGreaterThan(0.98);
            assertThat(quality.recall()).as(records + " records").isGreaterThan(0.9);
        }
    }

    @Test
    void whereNobodyLivesWithAnybodyThereAreNoHouseholds() {
        Joined alone = joined(Village.of(6_000, 5, false));
        assertThat(alone.weights().hasHouseholds()).isFalse();
        assertThat(alone.quality().precision()).isGreaterThan(0.999);
        assertThat(alone.quality().recall()).isGreaterThan(0.97);
    }

    /** Without a place or a contact, nobody can be told to live with somebody. */
    @Test
    void householdsAreNotGuessedFromNames() {
        Village village = Village.of(6_000, 6, true);
        RecordTable whole = village.table();
        List<Attribute> few = whole.attributes().stream()
                .filter(one -> one.kind() == Kind.GIVEN_NAME
                        || one.kind() == Kind.FAMILY_NAME
                        || one.kind() == Kind.BIRTH_DATE)
                .toList();
        RecordTable.Builder builder = new RecordTable.Builder(few);
        for (int record = 0; record < whole.size(); record++) {
            String[] values = new String[few.size()];
            for (int a = 0; a < values.length; a++) {
                values[a] = whole.value(whole.position(few.get(a).name()), record);
            }
            builder.add(whole.ref(record), values);
        }
        Resolution resolution = Resolution.of(builder.build(), ResolutionRules.usual(few), new MatchOverrides());
        assertThat(resolution.found().weights().hasHouseholds()).isFalse();
        assertThat(bits(
                        resolution.found().weights().strangers(),
                        resolution.found().weights(),
                        "birth_date",
                        0))
                .as("a birth date that is the same speaks for one person")
                .isGreaterThan(8);
    }

    /** In each row of each attribute, agreeing better weighs no less; against strangers and against a household. */
    @ParameterizedTest
    @ValueSource(ints = {40, 300, 3_000})
    void agreeingNeverWeighsLessThanDiffering(int records) {
        for (boolean families : new boolean[] {true, false}) {
            Weights weights = joined(Village.of(records, records, families)).weights();
            for (int i = 0; i < weights.levels().size(); i++) {
                Levels levels = weights.levels().get(i);
                for (Weights.Odds odds : List.of(weights.strangers(), weights.mates())) {
                    for (int cell = 1; cell < odds.m()[i].length; cell++) {
                        if (cell % levels.count() > 0) {
                            assertThat(odds.bits(i, cell))
                                    .as(levels.words(cell % levels.count()) + " of " + records)
                                    .isLessThanOrEqualTo(odds.bits(i, cell - 1) + 1e-9);
                        }
                    }
                }
            }
        }
    }

    /** Who moves has another address and another postcode: that is one thing that speaks against, and not two. */
    @Test
    void oneMoveIsChargedOnce() {
        Weights weights = joined(Village.of(8_000, 7, true)).weights();
        int postcode = -1;
        for (int i = 0; i < weights.levels().size(); i++) {
            postcode = weights.levels().get(i).attribute().equals("postcode") ? i : postcode;
        }
        int count = weights.levels().get(postcode).count();
        List<Double> differs = new ArrayList<>();
        for (int cell = count - 1; cell < 3 * count; cell += count) {
            differs.add(weights.strangers().bits(postcode, cell));
        }
        assertThat(differs.get(1)).as("at the same address").isLessThan(-4);
        assertThat(differs.get(2)).as("at another address").isBetween(-1.0, 0.1);
    }
}

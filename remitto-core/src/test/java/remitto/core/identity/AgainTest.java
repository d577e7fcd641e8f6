package remitto.core.identity;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.identity.compare.Comparison;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.normalise.Nicknames;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Attribute.Kind;
import remitto.core.identity.record.Links;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.MatchCondition;
import remitto.core.identity.rule.MatchRule;
import remitto.core.identity.rule.MatchRules;
import remitto.core.identity.rule.ResolutionRules;

/** Judging only what changed comes to what judging everything comes to. */
class AgainTest {
    private static final List<Attribute> ATTRIBUTES = List.of(
            new Attribute("given_name", Kind.GIVEN_NAME),
            new Attribute("family_name", Kind.FAMILY_NAME),
            new Attribute("email", Kind.EMAIL),
            new Attribute("phone", Kind.PHONE),
            new Attribute("birth_date", Kind.BIRTH_DATE));
    private static final List<String> GIVEN = List.of("ingrid", "lars", "kari", "ole", "anne", "per", "marit", "jan");

    /** Few names, so that blocks are large and are split. */
    private static String[] values(SplittableRandom random, int person) {
        String given = GIVEN.get(person % GIVEN.size());
        String family = "fam" + (char) ('a' + person % 5) + "sen";
        return new String[] {
            random.nextInt(15) == 0 ? given.substring(0, 1) : given,
            random.nextInt(20) == 0 ? family.replace("s", "z") : family,
            random.nextInt(4) == 0 ? "" : given + person % 300 + "@sol.example",
            random.nextInt(4) == 0 ? "" : "+479" + (1_000_000 + person * 77 % 900_000),
            random.nextInt(5) == 0 ? "" : "19" + (40 + person % 50) + "0" + (1 + person % 9) + (10 + person % 18)
        };
    }

    private static RecordTable table(Map<RecordRef, String[]> records) {
        RecordTable.Builder builder = new RecordTable.Builder(ATTRIBUTES);
        records.forEach(builder::add);
        return builder.build();
    }

    private static Set<Set<RecordRef>> persons(Resolution resolution) {
        Map<Integer, Set<RecordRef>> persons = new HashMap<>();
        for (int record = 0; record < resolution.table().size(); record++) {
            persons.computeIfAbsent(resolution.groups().group()[record], id -> new TreeSet<>())
                    .add(resolution.table().ref(record));
        }
        return new HashSet<>(persons.values());
    }

    private static Set<String> links(Resolution resolution) {
        Links links = resolution.found().links();
        Set<String> all = new TreeSet<>();
        for (int link = 0; link < links.size(); link++) {
            all.add(resolution.table().ref(links.one(link)) + " "
                    + resolution.table().ref(links.other(link)) + " " + links.weight(link) + " " + links.rule(link));
        }
        return all;
    }

    private static MatchOverrides overrides(RecordTable table, Map<List<RecordRef>, Boolean> decided) {
        Map<RecordRef, Integer> numbers = new HashMap<>();
        for (int record = 0; record < table.size(); record++) {
            numbers.put(table.ref(record), record);
        }
        MatchOverrides overrides = new MatchOverrides();
        decided.forEach((pair, together) -> {
            Integer one = numbers.get(pair.get(0));
            Integer other = numbers.get(pair.get(1));
            if (one != null && other != null && together) {
                overrides.together(one, other);
            } else if (one != null && other != null) {
                overrides.apart(one, other);
            }
        });
        return overrides;
    }

    /** Records come, go and change, people decide about pairs, and after each step both ways are compared. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void thePersonsAreThoseOfAWholeRun(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        Map<RecordRef, String[]> records = new TreeMap<>();
        for (int i = 0; i < 1_000; i++) {
            records.put(new RecordRef(i % 3 == 0 ? "pass" : "wifi", "r" + i), values(random, random.nextInt(600)));
        }
        MatchRule same = new MatchRule(List.of(new MatchCondition("phone", new Comparison.Same(), true)));
        ResolutionRules stated =
                new ResolutionRules(MatchRules.usual(ATTRIBUTES).join(List.of(same)), Nicknames.shipped(), Set.of());
        ResolutionRules set = seed % 2 == 0
                ? stated
                : stated.thresholds(new MatchRules.Thresholds(
                        1, -2, Optional.of(new MatchRules.TargetPrecision(0.98 + seed / 300.0, 30))));
        Map<List<RecordRef>, Boolean> decided = new HashMap<>();
        Resolution then = Resolution.of(table(records), set, new MatchOverrides());
        Weights weights = then.found().weights();
        int looked = 0;
        for (int step = 0; step < 8; step++) {
            Set<RecordRef> about = change(records, decided, random, step);
            RecordTable now = table(records);
            Resolution whole = Resolution.of(now, set, overrides(now, decided), weights);
            Resolution again =
                    Resolution.again(now, set, overrides(now, decided), weights, Earlier.of(now, then, about));
            assertThat(links(again)).isEqualTo(links(whole));
            assertThat(persons(again)).isEqualTo(persons(whole));
            assertThat(again.found().signatures()).isEqualTo(whole.found().signatures());
            looked += again.found().compared() < whole.found().compared() ? 1 : 0;
            then = again;
        }
        assertThat(looked).as("steps in which fewer pairs were looked at").isEqualTo(8);
    }

    private static Set<RecordRef> change(
            Map<RecordRef, String[]> records,
            Map<List<RecordRef>, Boolean> decided,
            SplittableRandom random,
            int step) {
        List<RecordRef> all = new ArrayList<>(records.keySet());
        for (int i = 0; i < random.nextInt(12); i++) {
            records.remove(all.get(random.nextInt(all.size())));
        }
        for (int i = 0; i < random.nextInt(12); i++) {
            records.put(all.get(random.nextInt(all.size())), values(random, random.nextInt(600)));
        }
        for (int i = 0; i < random.nextInt(12); i++) {
            records.put(new RecordRef("desk", step + "-" + i), values(random, random.nextInt(600)));
        }
        Set<RecordRef> about = new HashSet<>();
        for (int i = 0; i < 2; i++) {
            RecordRef one = all.get(random.nextInt(all.size()));
            RecordRef other = all.get(random.nextInt(all.size()));
            if (!one.equals(other)) {
                decided.put(List.of(one, other), random.nextBoolean());
                about.addAll(List.of(one, other));
            }
        }
        List<List<RecordRef>> before = List.copyOf(decided.keySet());
        List<RecordRef> turned = before.get(random.nextInt(before.size()));
        decided.put(turned, !decided.get(turned));
        about.addAll(turned);
        return about;
    }

    @Test
    void whenNothingChangedNothingIsLookedAt() {
        SplittableRandom random = new SplittableRandom(9);
        Map<RecordRef, String[]> records = new TreeMap<>();
        for (int i = 0; i < 500; i++) {
            records.put(new RecordRef("pass", "r" + i), values(random, random.nextInt(200)));
        }
        ResolutionRules set = ResolutionRules.usual(ATTRIBUTES);
        Resolution first = Resolution.of(table(records), set, new MatchOverrides());
        Resolution again = Resolution.again(
                table(records),
                set,
                new MatchOverrides(),
                first.found().weights(),
                Earlier.of(table(records), first, Set.of()));
        assertThat(again.found().compared()).isZero();
        assertThat(again.touched().isEmpty()).isTrue();
        assertThat(persons(again)).isEqualTo(persons(first));
    }

    @Test
    void aWeightSetByHandCountsWhateverWasEstimated() {
        SplittableRandom random = new SplittableRandom(10);
        Map<RecordRef, String[]> records = new TreeMap<>();
        for (int i = 0; i < 800; i++) {
            records.put(new RecordRef("pass", "r" + i), values(random, random.nextInt(300)));
        }
        Weights estimated = Resolution.of(table(records), ResolutionRules.usual(ATTRIBUTES), new MatchOverrides())
                .found()
                .weights();
        Weights set = estimated.with(List.of(
                new Weights.FixedWeight("email", 0, 3.5),
                new Weights.FixedWeight("gone", 0, 9),
                new Weights.FixedWeight("email", 99, 9)));
        assertThat(set.strangers().bits(2, 0)).isCloseTo(3.5, org.assertj.core.api.Assertions.within(1e-9));
        assertThat(set.mates().bits(2, 0) - estimated.mates().bits(2, 0))
                .as("against a household it moves by as much")
                .isCloseTo(3.5 - estimated.strangers().bits(2, 0), org.assertj.core.api.Assertions.within(1e-9));
        assertThat(set.strangers().bits(3, 0)).isEqualTo(estimated.strangers().bits(3, 0));
    }
}

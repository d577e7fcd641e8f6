package remitto.core.identity;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import remitto.core.identity.compare.Comparison;
import remitto.core.identity.group.Groups;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.group.PersonIds;
import remitto.core.identity.normalise.Nicknames;
import remitto.core.identity.quality.Quality;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Attribute.Kind;
import remitto.core.identity.record.CommonValues;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.MatchCondition;
import remitto.core.identity.rule.MatchRule;
import remitto.core.identity.rule.MatchRules;
import remitto.core.identity.rule.ResolutionRules;

/** Records joined into persons, on made-up ones whose truth is known. */
class ResolutionTest {
    private static final List<Attribute> ATTRIBUTES = List.of(
            new Attribute("given_name", Kind.GIVEN_NAME),
            new Attribute("family_name", Kind.FAMILY_NAME),
            new Attribute("email", Kind.EMAIL),
            new Attribute("phone", Kind.PHONE),
            new Attribute("birth_date", Kind.BIRTH_DATE),
            new Attribute("passport", Kind.IDENTIFIER));
    private static final List<String> GIVEN =
            List.of("ingrid", "lars", "kari", "ole", "anne", "per", "marit", "jan", "berit", "nils", "solveig", "erik");

    private record Made(RecordRef ref, String[] values, int person) {}

    private static List<Made> made(int persons, long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        List<Made> made = new ArrayList<>();
        for (int person = 0; person < persons; person++) {
            String given = GIVEN.get(random.nextInt(GIVEN.size()));
            String family = "fam" + (char) ('a' + random.nextInt(26)) + (char) ('a' + random.nextInt(26)) + "sen";
            String email = given + person + "@sol.example";
            String phone = "+479" + (1_000_000 + random.nextInt(8_000_000));
            String birth = "19" + (40 + random.nextInt(50)) + "0" + (1 + random.nextInt(9)) + (10 + random.nextInt(18));
            String passport = random.nextInt(3) == 0 ? "n" + (100_000 + person * 7) : "";
            for (String source : List.of("pass", "ticketing", "wifi")) {
                if (random.nextInt(10) < 6) {
                    made.add(new Made(
                            new RecordRef(source, source + person),
                            new String[] {
                                random.nextInt(20) == 0 ? given.substring(0, 1) : given,
                                random.nextInt(25) == 0 ? family.replaceFirst("s", "z") : family,
                                random.nextInt(5) == 0 ? "" : email,
                                random.nextInt(5) == 0 ? "" : phone,
                                random.nextInt(6) == 0 ? "" : birth,
                                passport
                            },
                            person));
                }
            }
        }
        return made;
    }

    private static RecordTable table(List<Made> made) {
        RecordTable.Builder builder = new RecordTable.Builder(ATTRIBUTES);
        made.forEach(one -> builder.add(one.ref(), one.values()));
        return builder.build();
    }

    private static Resolution resolve(List<Made> made, MatchOverrides overrides) {
        return Resolution.of(table(made), ResolutionRules.usual(ATTRIBUTES), overrides);
    }

    /** By record, those of its person. */
    private static Map<RecordRef, Set<RecordRef>> persons(Resolution resolution) {
        Map<Integer, Set<RecordRef>> groups = new HashMap<>();
        int[] group = resolution.groups().group();
        for (int record = 0; record < group.length; record++) {
            groups.computeIfAbsent(group[record], id -> new HashSet<>())
                    .add(resolution.table().ref(record));
        }
        Map<RecordRef, Set<RecordRef>> persons = new HashMap<>();
        groups.values().forEach(one -> one.forEach(ref -> persons.put(ref, one)));
        return persons;
    }

    private static int[] truth(Resolution resolution, List<Made> made) {
        Map<RecordRef, Integer> truth = new HashMap<>();
        made.forEach(one -> truth.put(one.ref(), one.person()));
        int[] numbers = new int[resolution.table().size()];
        for (int record = 0; record < numbers.length; record++) {
            numbers[record] = truth.get(resolution.table().ref(record));
        }
        return numbers;
    }

    @Test
    void whoIsOnePersonIsFoundWithoutLabels() {
        List<Made> made = made(3_000, 1);
        Resolution resolution = resolve(made, new MatchOverrides());
        Quality quality = Quality.of(resolution.groups().group(), truth(resolution, made));
        assertThat(quality.precision()).isGreaterThan(0.995);
        assertThat(quality.recall()).isGreaterThan(0.95);
    }

    @Test
    void theOrderRecordsComeInDoesNotMatter() {
        List<Made> made = made(1_500, 2);
        Map<RecordRef, Set<RecordRef>> first = persons(resolve(made, new MatchOverrides()));
        for (int i = 0; i < 3; i++) {
            List<Made> shuffled = new ArrayList<>(made);
            Collections.shuffle(shuffled, new Random(i));
            assertThat(persons(resolve(shuffled, new MatchOverrides()))).isEqualTo(first);
        }
    }

    @Test
    void pinsHoldWhateverTheEvidence() {
        List<Made> made = made(800, 3);
        Resolution before = resolve(made, new MatchOverrides());
        RecordTable table = before.table();
        int joined = 0;
        while (!before.groups().used()[joined]) {
            joined++;
        }
        int one = before.found().links().one(joined);
        int other = before.found().links().other(joined);
        int stranger = (one + table.size() / 2) % table.size();
        MatchOverrides overrides = new MatchOverrides();
        overrides.apart(one, other);
        overrides.together(one, stranger);
        int[] group = resolve(made, overrides).groups().group();
        assertThat(group[one]).isNotEqualTo(group[other]).isEqualTo(group[stranger]);
    }

    @Test
    void whatHangsOnTwoPinnedRecordsStaysWithThem() {
        List<Made> made = made(800, 9);
        int[] before = resolve(made, new MatchOverrides()).groups().group();
        int one = -1;
        int other = -1;
        for (int record = before.length - 1; record >= 0; record--) {
            if (before[record] != record) {
                other = one >= 0 && before[one] != before[record] ? record : other;
                one = one < 0 ? record : one;
            }
        }
        MatchOverrides overrides = new MatchOverrides();
        overrides.together(one, other);
        int[] after = resolve(made, overrides).groups().group();
        for (int record = 0; record < before.length; record++) {
            if (before[record] == before[one] || before[record] == before[other]) {
                assertThat(after[record]).isEqualTo(after[one]);
            }
        }
    }

    @Test
    void neverRulesAreNeverBrokenNotEvenByAChain() {
        List<Made> made = new ArrayList<>(made(800, 4));
        // One e-mail address ties three records together; the passports of the outer two differ, and so do their birth
        // dates.
        made.add(person("pass", "x1", "Kari", "kari.x@sol.example", "19700101", "n1"));
        made.add(person("wifi", "x2", "Kari", "kari.x@sol.example", "", ""));
        made.add(person("ticketing", "x3", "Kari", "kari.x@sol.example", "19810202", "n2"));
        MatchRule same = new MatchRule(List.of(new MatchCondition("email", new Comparison.Same(), true)));
        MatchRule others = new MatchRule(List.of(
                new MatchCondition("passport", new Comparison.Same(), false),
                new MatchCondition("birth_date", new Comparison.Same(), false)));
        MatchRules rules = MatchRules.usual(ATTRIBUTES).join(List.of(same)).never(List.of(others));
        Resolution resolution = Resolution.of(
                table(made), new ResolutionRules(rules, Nicknames.shipped(), Set.of()), new MatchOverrides());
        assertThat(resolution.groups().refused())
                .extracting(Groups.Refused::reason)
                .contains(Groups.Reason.NEVER_RULE);
        int[] group = resolution.groups().group();
        for (int one = 0; one < group.length; one++) {
            for (int other = one + 1; other < group.length; other++) {
                if (group[one] == group[other]) {
                    assertThat(rules.never().get(0).holds(resolution.table(), one, other))
                            .isFalse();
                }
            }
        }
        assertThat(persons(resolution).get(new RecordRef("wifi", "x2"))).hasSize(2);
    }

    private static Made person(String source, String key, String given, String email, String birth, String passport) {
        return new Made(new RecordRef(source, key), new String[] {given, "holmqvist", email, "", birth, passport}, -1);
    }

    @Test
    void aChainDoesNotJoinRecordsThatAreTooUnlikeEachOther() {
        List<Made> made = new ArrayList<>(made(800, 4));
        made.add(person("pass", "x1", "Kari", "kari.x@sol.example", "19700101", ""));
        made.add(person("wifi", "x2", "Kari", "kari.x@sol.example", "", ""));
        made.add(person("ticketing", "x3", "Kari", "kari.x@sol.example", "19810202", ""));
        MatchRules usual = MatchRules.usual(ATTRIBUTES);
        Map<Double, Integer> together = new HashMap<>();
        for (double apart : new double[] {-100, 12}) {
            MatchRules.GroupLimits limits = new MatchRules.GroupLimits(25, 8, -100, apart, 60, 12);
            MatchRules rules = new MatchRules(
                    usual.levels(),
                    usual.join(),
                    usual.never(),
                    usual.keys(),
                    new MatchRules.Thresholds(2, 1),
                    limits,
                    List.of());
            Resolution resolution = Resolution.of(
                    table(made), new ResolutionRules(rules, Nicknames.shipped(), Set.of()), new MatchOverrides());
            together.put(
                    apart, persons(resolution).get(new RecordRef("wifi", "x2")).size());
            boolean far = resolution.groups().refused().stream().anyMatch(one -> one.reason() == Groups.Reason.FAR);
            assertThat(far).isEqualTo(apart == 12);
        }
        assertThat(together.get(12.0)).isLessThan(together.get(-100.0));
    }

    @Test
    void blankAndConstantIdentifiersGlueNobodyTogether() {
        List<Made> made = new ArrayList<>(made(600, 5));
        for (int i = 0; i < 60; i++) {
            made.add(new Made(
                    new RecordRef("desk", "d" + i),
                    new String[] {
                        GIVEN.get(i % GIVEN.size()),
                        "family" + i,
                        i % 2 == 0 ? "test@desk.example" : "",
                        "+4700000000",
                        "",
                        "000000"
                    },
                    10_000 + i));
        }
        Resolution resolution = resolve(made, new MatchOverrides());
        assertThat(resolution.common().list())
                .extracting(CommonValues.Common::value)
                .contains("test@desk.example", "000000");
        int[] group = resolution.groups().group();
        Set<Integer> desk = new HashSet<>();
        for (int record = 0; record < group.length; record++) {
            if (resolution.table().ref(record).source().equals("desk")) {
                desk.add(group[record]);
            }
        }
        assertThat(desk).as("sixty people at one desk").hasSize(60);
        CommonValues.Common kept = resolution.common().list().stream()
                .filter(one -> one.value().equals("000000"))
                .findFirst()
                .orElseThrow();
        assertThat(CommonValues.find(table(made), 12, Set.of(kept)).list())
                .extracting(CommonValues.Common::value)
                .doesNotContain("000000");
    }

    @Test
    void anotherRunGivesEverybodyTheSameIdAndANewRecordJoinsItsPerson() {
        List<Made> made = made(700, 6);
        Resolution first = resolve(made, new MatchOverrides());
        long[] ids = PersonIds.assign(
                        first.groups().group(), new long[first.table().size()], 1)
                .ids();
        assertThat(PersonIds.assign(first.groups().group(), ids, 10_000).ids()).isEqualTo(ids);

        Map<RecordRef, Long> before = new HashMap<>();
        for (int record = 0; record < ids.length; record++) {
            before.put(first.table().ref(record), ids[record]);
        }
        Made known = made.stream()
                .filter(one -> !one.values()[2].isEmpty() && !one.values()[4].isEmpty())
                .findFirst()
                .orElseThrow();
        List<Made> more = new ArrayList<>(made);
        more.add(new Made(new RecordRef("kiosk", "k1"), known.values(), known.person()));
        Resolution second = resolve(more, new MatchOverrides());
        long[] had = new long[second.table().size()];
        int kiosk = -1;
        for (int record = 0; record < had.length; record++) {
            had[record] = before.getOrDefault(second.table().ref(record), 0L);
            kiosk = second.table().ref(record).source().equals("kiosk") ? record : kiosk;
        }
        PersonIds.Assigned assigned = PersonIds.assign(second.groups().group(), had, 10_000);
        assertThat(assigned.ids()[kiosk]).isEqualTo(before.get(known.ref()));
    }

    /** Common practice, no source: about half the records of two sources belong to people in both. */
    @Test
    void eitherSourcesIdLeadsToTheSamePerson() {
        List<Made> made = new ArrayList<>();
        for (Made one : made(1_800, 8)) {
            long pass = made.stream()
                    .filter(two -> two.ref().source().equals("pass"))
                    .count();
            long ticketing = made.size() - pass;
            if (one.ref().source().equals("pass") && pass < 992
                    || one.ref().source().equals("ticketing") && ticketing < 939) {
                made.add(one);
            }
        }
        assertThat(made).hasSize(992 + 939);
        Map<RecordRef, Set<RecordRef>> persons = persons(resolve(made, new MatchOverrides()));
        int both = 0;
        for (Made one : made) {
            Set<RecordRef> person = persons.get(one.ref());
            both += person.size() > 1 ? 1 : 0;
            person.forEach(ref -> assertThat(persons.get(ref)).isSameAs(person));
        }
        assertThat(both / (double) made.size()).isBetween(0.4, 0.7);
    }
}

package remitto.core.identity.group;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.BitSet;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.identity.compare.Comparison;
import remitto.core.identity.compare.Levels;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.Groups.Reason;
import remitto.core.identity.group.Groups.Refused;
import remitto.core.identity.normalise.Nicknames;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Attribute.Kind;
import remitto.core.identity.record.Links;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.MatchCondition;
import remitto.core.identity.rule.MatchRule;
import remitto.core.identity.rule.MatchRules;
import remitto.core.identity.rule.MatchRules.GroupLimits;
import remitto.core.identity.rule.MatchRules.Thresholds;

/**
 * Which links are followed. Two records weigh {@value #ALIKE} bits together when their trait is the same, and {@value #UNLIKE} when it is
 * not, so that every sum can be done by head.
 */
class GrouperTest {
    private static final double ALIKE = 6;
    private static final double UNLIKE = -6;
    private static final List<Attribute> ATTRIBUTES = List.of(
            new Attribute("trait", Kind.VERBATIM),
            new Attribute("email", Kind.EMAIL),
            new Attribute("passport", Kind.IDENTIFIER));

    private GroupLimits limits;
    private List<MatchRule> never;
    private MatchOverrides overrides;
    private Links links;

    @BeforeEach
    void nothingIsLimited() {
        limits = new GroupLimits(100, 100, -100, -100, 60, 12);
        never = List.of();
        overrides = new MatchOverrides();
        links = new Links();
    }

    private static RecordTable table(String... traits) {
        RecordTable.Builder builder = new RecordTable.Builder(ATTRIBUTES);
        for (int i = 0; i < traits.length; i++) {
            String[] parts = (traits[i] + "//").split("/", -1);
            builder.add(
                    new RecordRef("s", String.format(java.util.Locale.ROOT, "%03d", i)),
                    new String[] {parts[0], parts[1], parts[2]});
        }
        return builder.build();
    }

    /** Odds of powers of two, so that the logarithms are whole. */
    private static Weights weights() {
        Weights.Odds odds = new Weights.Odds(
                0,
                new double[][] {{Math.pow(2, ALIKE) / 1_000, Math.pow(2, UNLIKE) / 1_000}},
                new double[][] {{1.0 / 1_000, 1.0 / 1_000}});
        return new Weights(
                10, List.of(new Levels("trait", List.of(new Comparison.Same()), false)), List.of(true), odds, odds);
    }

    private Grouper grouper(RecordTable table) {
        MatchRules rules =
                new MatchRules(List.of(), List.of(), never, List.of(), new Thresholds(5, 1), limits, List.of());
        return new Grouper(table, rules, new Scorer(table, weights(), Nicknames.shipped()), overrides);
    }

    private Groups group(String... traits) {
        return grouper(table(traits)).group(links);
    }

    private void link(int one, int other, double weight) {
        links.add(one, other, weight, -1);
    }

    private void rule(int one, int other) {
        links.add(one, other, -3, 0);
    }

    @Test
    void linksAboveTheThresholdJoinAndAChainIsOnePerson() {
        link(0, 1, 5);
        link(1, 2, 7);
        link(3, 4, 4.9);
        Groups groups = group("a", "a", "a", "a", "a");
        assertThat(groups.group()).as("5 bits join, 4.9 do not").containsExactly(0, 0, 0, 3, 4);
        assertThat(groups.persons()).isEqualTo(3);
        assertThat(groups.used()).containsExactly(true, true, false);
        assertThat(groups.refused()).isEmpty();
    }

    @Test
    void aRuleJoinsWhateverTheWeight() {
        rule(0, 1);
        assertThat(group("a", "b").group()).containsExactly(0, 0);
    }

    /** Of three links around three records the strongest two hold the person together, and the third says nothing new. */
    @Test
    void aLinkWithinAPersonIsUsedToo() {
        link(0, 1, 9);
        link(1, 2, 8);
        link(0, 2, 6);
        assertThat(group("a", "a", "a").used()).containsExactly(true, true, true);
    }

    @ParameterizedTest
    @CsvSource({"4, 0", "3, 1", "2, 2"})
    void aPersonHasSoManyRecordsAtMost(int most, int refused) {
        limits = new GroupLimits(most, 100, -100, -100, 60, 12);
        link(0, 1, 9);
        link(1, 2, 8);
        link(2, 3, 7);
        Groups groups = group("a", "a", "a", "a");
        int[] sizes = IntStream.range(0, 4)
                .map(root -> (int)
                        IntStream.of(groups.group()).filter(one -> one == root).count())
                .toArray();
        assertThat(IntStream.of(sizes).max().orElseThrow()).isLessThanOrEqualTo(most);
        assertThat(groups.refused()).hasSize(most == 2 ? 1 : refused).allMatch(one -> one.reason() == Reason.TOO_LARGE);
        assertThat(groups.persons()).isEqualTo(most == 4 ? 1 : 2);
    }

    /** The weakest link of what would be too large is the one that is cut. */
    @Test
    void theWeakestIsCut() {
        limits = new GroupLimits(3, 100, -100, -100, 60, 12);
        link(0, 1, 6);
        link(1, 2, 9);
        link(2, 3, 8);
        Groups groups = group("a", "a", "a", "a");
        assertThat(groups.refused()).containsExactly(new Refused(0, Reason.TOO_LARGE));
        assertThat(groups.group()).containsExactly(0, 1, 1, 1);
    }

    @Test
    void rulesComeBeforeWeights() {
        limits = new GroupLimits(2, 100, -100, -100, 60, 12);
        link(0, 1, 20);
        rule(1, 2);
        Groups groups = group("a", "a", "a");
        assertThat(groups.group()).containsExactly(0, 1, 1);
        assertThat(groups.refused()).containsExactly(new Refused(0, Reason.TOO_LARGE));
    }

    /** What weighs the same goes by the records' numbers, so that the order links came in does not matter. */
    @Test
    void equalLinksGoByTheirRecords() {
        limits = new GroupLimits(2, 100, -100, -100, 60, 12);
        link(1, 2, 8);
        link(0, 1, 8);
        assertThat(group("a", "a", "a").group()).containsExactly(0, 0, 2);
        links = new Links();
        link(0, 2, 8);
        link(0, 1, 8);
        assertThat(group("a", "a", "a").group()).containsExactly(0, 0, 2);
    }

    @ParameterizedTest
    @CsvSource({"2, 1, true", "3, 0, false"})
    void aPersonHasSoManyAddressesAtMost(int most, int refused, boolean apart) {
        limits = new GroupLimits(100, most, -100, -100, 60, 12);
        link(0, 1, 9);
        link(1, 2, 8);
        link(2, 3, 7);
        Groups groups = group("a/one@x.example", "a/two@x.example", "a/two@x.example", "a/three@x.example");
        assertThat(groups.refused()).hasSize(refused).allMatch(one -> one.reason() == Reason.TOO_MANY_EMAILS);
        assertThat(groups.group()[3] != 0).isEqualTo(apart);
    }

    /** Records without an address have none, not one more. */
    @Test
    void noAddressIsNoAddress() {
        limits = new GroupLimits(100, 1, -100, -100, 60, 12);
        link(0, 1, 9);
        link(1, 2, 8);
        assertThat(group("a/one@x.example", "a", "a/one@x.example").refused()).isEmpty();
    }

    @Test
    void aRuleThatKeepsApartHoldsForEveryPairOfThePersonsItWouldJoin() {
        never = List.of(new MatchRule(List.of(new MatchCondition("passport", new Comparison.Same(), false))));
        link(0, 1, 9);
        link(1, 2, 8);
        Groups groups = group("a//N1", "a", "a//N2");
        assertThat(groups.group()).containsExactly(0, 0, 2);
        assertThat(groups.refused()).containsExactly(new Refused(1, Reason.NEVER_RULE));
        links = new Links();
        link(0, 1, 9);
        rule(1, 2);
        assertThat(group("a//N1", "a", "a//N2").refused())
                .as("also against a rule that joins, which goes first")
                .containsExactly(new Refused(0, Reason.NEVER_RULE));
    }

    @Test
    void aPinKeepsApartWhateverTheEvidence() {
        overrides.apart(2, 0);
        link(0, 1, 9);
        rule(1, 2);
        link(3, 4, 9);
        Groups groups = group("a", "a", "a", "a", "a");
        assertThat(groups.refused()).containsExactly(new Refused(0, Reason.PIN));
        assertThat(groups.group()).containsExactly(0, 1, 1, 3, 3);
    }

    @Test
    void aPinJoinsWithoutALinkAndBringsLimitsOfEvidenceDown() {
        limits = new GroupLimits(100, 100, 0, -1, 60, 12);
        overrides.together(2, 0);
        link(2, 3, 9);
        Groups groups = group("a", "x", "b", "c");
        assertThat(groups.group())
                .as("0 and 2 by the pin; 3 by a link, though it is unlike both")
                .containsExactly(0, 1, 0, 0);
        assertThat(groups.refused()).isEmpty();
    }

    /** Two of 0, 1 agree, as do 2, 3; the four pairs between them differ. */
    private Groups twoPairs(GroupLimits given) {
        limits = given;
        link(0, 1, 9);
        link(2, 3, 9);
        link(1, 2, 6);
        return group("a", "a", "b", "b");
    }

    @ParameterizedTest
    @CsvSource({"-6.5, false", "-6, false", "-5.5, true"})
    void noTwoRecordsMayBeTooUnlike(double apart, boolean refused) {
        Groups groups = twoPairs(new GroupLimits(100, 100, -100, apart, 60, 12));
        assertThat(groups.refused()).isEqualTo(refused ? List.of(new Refused(2, Reason.FAR)) : List.of());
    }

    @ParameterizedTest
    @CsvSource({"-6.5, false", "-6, false", "-5.5, true"})
    void theTwoSidesMustAgreeOnTheAverage(double weakest, boolean refused) {
        Groups groups = twoPairs(new GroupLimits(100, 100, weakest, -100, 60, 12));
        assertThat(groups.refused()).isEqualTo(refused ? List.of(new Refused(2, Reason.WEAK)) : List.of());
    }

    /** One pair of two agrees, the other does not: on the average 0 bits. */
    @ParameterizedTest
    @CsvSource({"-0.5, false", "0.5, true"})
    void theAverageIsOverEveryPairBetweenTheTwo(double weakest, boolean refused) {
        limits = new GroupLimits(100, 100, weakest, -100, 60, 12);
        link(0, 1, 9);
        link(1, 2, 6);
        Groups groups = group("a", "b", "b");
        assertThat(groups.refused()).isEqualTo(refused ? List.of(new Refused(1, Reason.WEAK)) : List.of());
    }

    @Test
    void twoSingleRecordsAreTakenAtTheirLinksWord() {
        limits = new GroupLimits(100, 100, 50, 50, 60, 12);
        link(0, 1, 6);
        assertThat(group("a", "b").group()).containsExactly(0, 0);
    }

    @Test
    void whatARuleJoinsNeedNotAgreeOnAnythingElse() {
        limits = new GroupLimits(100, 100, 50, 50, 60, 12);
        rule(0, 1);
        rule(1, 2);
        rule(2, 3);
        assertThat(group("a", "b", "c", "d").persons()).isEqualTo(1);
    }

    private Groups again(BitSet touched, long[] before, String... traits) {
        return grouper(table(traits)).groupAgain(links, touched, before);
    }

    private static BitSet bits(int... set) {
        BitSet bits = new BitSet();
        IntStream.of(set).forEach(bits::set);
        return bits;
    }

    /** Persons nothing touched stay, though their links would not join them any more, or would join more. */
    @Test
    void untouchedPersonsStayAsTheyAre() {
        link(4, 5, 9);
        BitSet touched = bits(4);
        Groups groups = again(touched, new long[] {7, 8, 7, 9, 0, 3}, "a", "a", "a", "a", "a", "a");
        assertThat(groups.group()).containsExactly(0, 1, 0, 3, 4, 4);
        assertThat(touched).isEqualTo(bits(4, 5));
    }

    @Test
    void aChainOfLinksThatLeadsToATouchedRecordIsDoneAnew() {
        link(0, 1, 9);
        link(1, 2, 9);
        link(3, 4, 9);
        rule(2, 5);
        link(5, 6, 4.9);
        BitSet touched = bits(2);
        Groups groups = again(touched, new long[] {1, 1, 2, 3, 4, 5, 6}, "a", "a", "a", "a", "a", "a", "a");
        assertThat(touched).as("the link of 4.9 bits leads nowhere").isEqualTo(bits(0, 1, 2, 5));
        assertThat(groups.group()).containsExactly(0, 0, 0, 3, 4, 0, 6);
        assertThat(groups.used())
                .as("links of untouched records join nothing, and are used where their records are one person already")
                .containsExactly(true, true, false, true, false);
    }

    /** A link of exactly the threshold leads on, as it joins. */
    @Test
    void aLinkOfTheThresholdLeadsOn() {
        link(0, 1, 5);
        BitSet touched = bits(1);
        assertThat(again(touched, new long[] {1, 2}, "a", "a").group()).containsExactly(0, 0);
        assertThat(touched).isEqualTo(bits(0, 1));
    }

    /** What was pinned stays pinned when its person is joined to one of a lower number. */
    @Test
    void aPinnedPersonStaysOneThatIsTakenAtItsWord() {
        limits = new GroupLimits(100, 100, 0, -1, 60, 12);
        overrides.together(1, 2);
        link(0, 1, 9);
        link(0, 3, 8);
        Groups groups = group("a", "b", "c", "d");
        assertThat(groups.group()).containsExactly(0, 0, 0, 0);
    }

    @Test
    void everyReasonHasWordsOfItsOwn() {
        assertThat(java.util.Arrays.stream(Reason.values()).map(Reason::words))
                .doesNotHaveDuplicates()
                .noneMatch(String::isBlank);
    }

    @Test
    void aLinkWithinAnUntouchedPersonIsUsed() {
        link(0, 1, 9);
        Groups groups = again(new BitSet(), new long[] {4, 4, 5}, "a", "a", "a");
        assertThat(groups.group()).containsExactly(0, 0, 2);
        assertThat(groups.used()).containsExactly(true);
    }

    @Test
    void whatSomebodyJoinedIsAlwaysDoneAnew() {
        overrides.together(0, 2);
        link(2, 3, 9);
        BitSet touched = new BitSet();
        Groups groups = again(touched, new long[] {1, 2, 3, 4}, "a", "a", "a", "a");
        assertThat(groups.group()).containsExactly(0, 1, 0, 0);
        assertThat(touched).isEqualTo(bits(0, 2, 3));
    }

    /** Many joins in an order that makes long ways to the root: every record still finds its person. */
    @Test
    void longChainsComeToOnePerson() {
        int records = 40;
        limits = new GroupLimits(1_000, 1_000, -100, -100, 60, 12);
        for (int i = records - 1; i > 0; i--) {
            link(i - 1, i, 10 + i);
        }
        String[] traits = new String[records];
        java.util.Arrays.fill(traits, "a");
        Groups groups = group(traits);
        assertThat(groups.persons()).isEqualTo(1);
        assertThat(groups.group()).containsOnly(0);
        assertThat(groups.used()).containsOnly(true);
    }
}

package remitto.server.people.resolution;

import java.util.List;
import java.util.Optional;
import remitto.server.platform.Personal;

/**
 * What a run found, in numbers.
 *
 * @param records read, {@code withoutKey} rows that had no key and were passed over
 * @param changed records that were new or said something else than before, {@code gone} those that were no more
 * @param judged records whose person was judged again
 * @param joined persons by pair of sources that both know them
 * @param sizes persons by how many records they have
 * @param rulesNumber version of the rules, 0 for what ships
 * @param rules pairs that hold persons together, by what joined them
 * @param asks pairs that are neither strong nor weak enough to decide, {@code refused} strong ones that a guard left apart
 * @param cost none in summaries from before it was kept
 * @param fresh persons that were not there before, {@code retired} that are no more, {@code split} that lost records to others
 */
public record PeopleSummary(
        long records,
        long withoutKey,
        long changed,
        long gone,
        long judged,
        long persons,
        List<SourceCount> sources,
        List<SharedBy> joined,
        List<GroupSizeCount> sizes,
        int rulesNumber,
        List<MatchRuleCount> rules,
        List<EvidenceRow> evidence,
        List<LeftOutValue> common,
        List<BlockingKeyCount> keys,
        long compared,
        long asks,
        long refused,
        long fresh,
        long retired,
        long split,
        Optional<ExpectedCost> cost) {

    /**
     * What matching is expected to cost, by the weights themselves.
     *
     * @param precision share of the joined pairs that is expected to be right, from 0 to 1
     * @param joined pairs that weigh enough
     * @param asked from which weights on, in bits, more of them would be right
     * @param join weight in bits that they were joined from
     * @param ask that pairs are asked about from
     * @param between pairs that weigh less than the one and as much as the other; none in summaries from before they were kept
     */
    record ExpectedCost(
            double precision,
            long joined,
            List<ForPrecision> asked,
            Optional<Double> join,
            Optional<Double> ask,
            Optional<Long> between) {}

    /**
     * Thresholds that reach a precision.
     *
     * @param join weight in bits from which {@code joined} pairs are joined, of which {@code precision} are expected to be right
     */
    record ForPrecision(double precision, double join, long joined) {}

    /**
     * How many records and persons a dataset gave.
     *
     * @param persons that have a record of it
     */
    record SourceCount(long datasetId, String dataset, long records, long persons) {}

    /**
     * How many people two datasets share.
     *
     * @param share of the persons of the smaller of the two, from 0 to 1
     */
    record SharedBy(String one, String other, long persons, double share) {}

    /** How many persons have so many records. */
    record GroupSizeCount(int records, long persons) {}

    /** How many pairs a rule matched. */
    public record MatchRuleCount(String words, long pairs) {}

    /**
     * How strongly a way of agreeing speaks for one person, in bits, against strangers and two of one household.
     *
     * @param attribute blank for what any two records begin with
     * @param level from 0, the best
     * @param byHand whether somebody set it
     * @param grounds none in summaries from before it was kept
     */
    record EvidenceRow(
            String words,
            String attribute,
            int level,
            double strangers,
            double household,
            double amongMatches,
            double amongOthers,
            boolean byHand,
            Optional<WeightGrounds> grounds) {}

    /**
     * What a weight rests on.
     *
     * @param inLightOf what it weighs where attributes that go with it agree or differ, a phrase each
     * @param seen pairs of one person that the attribute was learnt from, about
     * @param few whether these are so few that what is usual counts for more
     */
    record WeightGrounds(List<String> inLightOf, long seen, boolean few) {}

    /** A value that matching ignores, since many records share it. */
    record LeftOutValue(String attribute, @Personal String value, int records, String reason) {}

    /**
     * A blocking key and the pairs that it gave.
     *
     * @param pairs compared
     * @param leftOut passed over since too many records agree
     */
    record BlockingKeyCount(String words, long pairs, long leftOut) {}
}

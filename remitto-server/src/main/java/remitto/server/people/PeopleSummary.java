package remitto.server.people;

import java.util.List;

/**
 * What a run found, in numbers.
 *
 * @param records read, of which {@code withoutKey} had no key and were passed over
 * @param joined persons by pair of sources that both know them
 * @param sizes persons by how many records they have
 * @param asks pairs that are neither strong nor weak enough to decide
 * @param fresh persons that were not there before, @param retired that are no more, @param split that lost records to others
 */
record PeopleSummary(
        long records,
        long withoutKey,
        long persons,
        List<SourceSum> sources,
        List<SharedBy> joined,
        List<SizeSum> sizes,
        List<EvidenceRow> evidence,
        List<LeftOutValue> common,
        List<KeySum> keys,
        long compared,
        long asks,
        long refused,
        long fresh,
        long retired,
        long split) {

    /** @param persons that have a record of it */
    record SourceSum(long datasetId, String dataset, long records, long persons) {}

    /** @param share of the persons of the smaller of the two, from 0 to 1 */
    record SharedBy(String one, String other, long persons, double share) {}

    record SizeSum(int records, long persons) {}

    /** How strongly a way of agreeing speaks for one person. @param against strangers and two of one household, in bits */
    record EvidenceRow(String words, double strangers, double household, double amongMatches, double amongOthers) {}

    record LeftOutValue(String attribute, String value, int records, String reason) {}

    /** @param pairs compared, @param leftOut passed over since too many records agree */
    record KeySum(String words, long pairs, long leftOut) {}
}

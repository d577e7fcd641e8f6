package remitto.core.expectation;

/**
 * An expectation that somebody may want.
 *
 * @param sentence what would be expected, in words
 * @param evidence why it is proposed, in a sentence
 */
public record ExpectationProposal(Expectation expectation, String sentence, String evidence) {
    static ExpectationProposal of(Expectation expectation, String evidence) {
        return new ExpectationProposal(expectation, expectation.sentence(), evidence);
    }
}

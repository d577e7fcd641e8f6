package remitto.core.expectation;

/**
 * Whether one read met an expectation.
 *
 * @param met whether it did
 * @param rows that did not meet it; 0 where it is about the dataset as a whole
 * @param partlyHeld whether rows that are to be held cannot all be told apart, so that routes are stopped instead
 * @param detail what was found, in a sentence; blank if it was met
 */
public record Finding(Expectation expectation, boolean met, long rows, boolean partlyHeld, String detail) {
    public boolean stopsRoutes() {
        return partlyHeld || !met && expectation.response() == Response.STOP_ROUTES;
    }

    /** What was expected and what was found, in words for somebody who has to decide. */
    public String sentence() {
        return "Expected that " + expectation.sentence() + ". " + detail;
    }

    /** The same where several datasets are read. */
    public String sentenceOf(String dataset) {
        return dataset + ": expected that " + expectation.sentence() + ". " + detail;
    }
}

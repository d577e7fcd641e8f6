package remitto.core.identity.group;

import java.util.List;

/**
 * Records joined into persons.
 *
 * @param group by record, the lowest number of a record of its person
 * @param persons how many there are
 * @param used by link, whether it holds a person together
 * @param refused links that would have joined and were not followed, with the reason
 */
public record Groups(int[] group, int persons, boolean[] used, List<Refused> refused) {
    /** @param link its number */
    public record Refused(int link, Reason reason) {}

    /** Why a link that weighs enough joins nothing. */
    public enum Reason {
        NEVER_RULE("a rule keeps two of the records apart"),
        PIN("a person keeps two of the records apart"),
        TOO_LARGE("the person would have too many records"),
        TOO_MANY_EMAILS("the person would have too many e-mail addresses"),
        FAR("two of the records are too unlike each other"),
        WEAK("the records of the two sides do not agree with each other");

        private final String words;

        Reason(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }
}

package remitto.core.identity.normalise;

import java.util.Set;

/** Whether somebody said yes or no, in the words that systems use; from memory. */
final class Answers {
    private static final Set<String> YES =
            Set.of("yes", "y", "true", "t", "1", "given", "granted", "opted in", "subscribed", "ja", "oui", "si");
    private static final Set<String> NO = Set.of(
            "no",
            "n",
            "false",
            "f",
            "0",
            "withdrawn",
            "denied",
            "refused",
            "opted out",
            "unsubscribed",
            "nei",
            "nein",
            "non");

    private Answers() {}

    /** @return yes, no, or blank when they were not asked */
    static String normalise(String plain) {
        return YES.contains(plain) ? "yes" : NO.contains(plain) ? "no" : "";
    }
}

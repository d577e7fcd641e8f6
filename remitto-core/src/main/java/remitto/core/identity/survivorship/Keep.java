package remitto.core.identity.survivorship;

import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Which of several values of a person is kept. What ties is decided by the order of sources, then by the record's key, so that the
 * same records always keep the same value.
 */
public enum Keep {
    SOURCE_ORDER("first source that has one"),
    NEWEST("newest"),
    MOST_COMPLETE("most complete"),
    MOST_FREQUENT("most frequent"),
    LONGEST("longest"),
    SMALLEST("smallest"),
    LARGEST("largest");

    private static final Comparator<Candidate> ORDER =
            Comparator.comparing(Candidate::place).thenComparing(Candidate::ref);

    private final String words;

    Keep(String words) {
        this.words = words;
    }

    /** In words, as the reason beside a kept value. */
    public String words() {
        return words;
    }

    /** @param reason in words, why this value and no other */
    public record Kept(Candidate candidate, String reason) {}

    /** Empty when there is no candidate. */
    public Optional<Kept> from(List<Candidate> candidates, boolean verifiedFirst) {
        List<Candidate> verified =
                candidates.stream().filter(Candidate::verified).toList();
        if (!verifiedFirst || verified.isEmpty() || verified.size() == candidates.size()) {
            return from(candidates);
        }
        return from(verified)
                .map(one -> new Kept(
                        one.candidate(), verified.size() == 1 ? "the verified one" : "verified, " + one.reason()));
    }

    /** Empty when there is no candidate. */
    public Optional<Kept> from(List<Candidate> candidates) {
        Map<String, Integer> counts = new HashMap<>();
        candidates.forEach(one -> counts.merge(one.normalised(), 1, Integer::sum));
        Optional<Candidate> best = candidates.stream().min(by(counts).thenComparing(ORDER));
        return best.map(one -> new Kept(one, reason(one, candidates, counts)));
    }

    private Comparator<Candidate> by(Map<String, Integer> counts) {
        Comparator<Candidate> byValue = Comparator.comparing(Candidate::normalised);
        Comparator<Candidate> byLength =
                Comparator.comparing(one -> -one.value().length());
        return switch (this) {
            case SOURCE_ORDER -> ORDER;
            case NEWEST -> Comparator.comparing(one -> one.at().orElse(Instant.MIN), Comparator.reverseOrder());
            case MOST_COMPLETE ->
                Comparator.<Candidate, Integer>comparing(one -> -letters(one)).thenComparing(byLength);
            case MOST_FREQUENT -> Comparator.comparing(one -> -counts.get(one.normalised()));
            case LONGEST -> byLength;
            case SMALLEST -> byValue;
            case LARGEST -> byValue.reversed();
        };
    }

    /** Letters of words that are written out; an initial counts for none. */
    private static int letters(Candidate candidate) {
        int letters = 0;
        for (String word : candidate.normalised().split(" ")) {
            letters += word.length() > 1 ? word.length() : 0;
        }
        return letters;
    }

    private String reason(Candidate kept, List<Candidate> candidates, Map<String, Integer> counts) {
        if (counts.size() == 1) {
            return candidates.size() == 1 ? "the only value" : "all " + candidates.size() + " agree";
        }
        boolean tie = candidates.stream()
                .filter(one -> !one.normalised().equals(kept.normalised()))
                .anyMatch(one -> by(counts).compare(one, kept) == 0);
        String more = this == MOST_FREQUENT ? ", " + counts.get(kept.normalised()) + " of " + candidates.size() : "";
        return words + more + (tie && this != SOURCE_ORDER ? ", then by source" : "");
    }
}

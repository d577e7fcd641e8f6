package remitto.core.identity.survivorship;

import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * What somebody's linked records come to together, for one purpose and one channel: no beats yes beats not asked. A yes lifts a
 * no only when it is dated after it and has evidence of its own; a yes that expired is not asked.
 */
public final class ConsentOrder {
    private static final Comparator<ConsentSaid> LATEST = Comparator.<ConsentSaid, Instant>comparing(
                    one -> one.at().orElse(Instant.MIN))
            .reversed()
            .thenComparing(ConsentSaid::ref);

    private ConsentOrder() {}

    /**
     * @param said what decided
     * @param reason in words
     */
    public record Decided(ConsentSaid said, String reason) {}

    /** Empty when they were not asked, or their yes expired. */
    public static Optional<Decided> of(List<ConsentSaid> all, Instant now) {
        List<ConsentSaid> noes = all.stream().filter(one -> !one.yes()).toList();
        List<ConsentSaid> yeses = all.stream()
                .filter(one ->
                        one.yes() && one.expires().map(end -> end.isAfter(now)).orElse(true))
                .toList();
        if (noes.isEmpty()) {
            return yeses.stream().min(LATEST).map(one -> new Decided(one, "said yes, and no record says no"));
        }
        Optional<ConsentSaid> lifting = yeses.stream()
                .filter(yes -> noes.stream().allMatch(no -> lifts(yes, no)))
                .min(LATEST);
        return lifting.map(one -> new Decided(one, "a later yes with evidence of its own lifts the no"))
                .or(() -> noes.stream()
                        .min(LATEST)
                        .map(one -> new Decided(one, yeses.isEmpty() ? "said no" : "a no beats a yes")));
    }

    private static boolean lifts(ConsentSaid yes, ConsentSaid no) {
        return !yes.evidence().isBlank()
                && yes.at().isPresent()
                && no.at().isPresent()
                && yes.at().get().isAfter(no.at().get());
    }
}

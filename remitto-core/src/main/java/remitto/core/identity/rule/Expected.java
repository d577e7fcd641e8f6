package remitto.core.identity.rule;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.record.Links;
import remitto.core.identity.rule.MatchRules.Thresholds;

/**
 * What matching from a weight on is expected to cost, by what the weights themselves say: a pair of w bits is one person in 2^w of
 * 2^w + 1 cases. Pairs that a rule joins are taken to be right, since somebody said so.
 *
 * @param join weight, in bits, from which records are joined
 * @param joined pairs that weigh as much
 * @param precision share of them that is expected to be right, from 0 to 1; 1 when there are none
 */
public record Expected(double join, long joined, double precision) {
    private static final double EVEN = 0;

    /** @param links all pairs from that weight on, and any below */
    public static Expected from(Links links, double join) {
        long joined = 0;
        double right = 0;
        for (int link = 0; link < links.size(); link++) {
            if (counts(links, link, join)) {
                joined++;
                right += right(links, link);
            }
        }
        return new Expected(join, joined, joined == 0 ? 1 : right / joined);
    }

    /**
     * The lowest weight from which so large a share of what is joined is expected to be right.
     *
     * @param precision asked for, from 0 to 1
     * @return empty when not even the strongest pairs are as likely
     */
    public static Optional<Expected> forPrecision(Links links, double precision) {
        List<Integer> strongest =
                new ArrayList<>(IntStream.range(0, links.size()).boxed().toList());
        strongest.sort((one, other) -> {
            int rule = Boolean.compare(links.rule(other) >= 0, links.rule(one) >= 0);
            return rule != 0 ? rule : Double.compare(links.weight(other), links.weight(one));
        });
        Optional<Expected> best = Optional.empty();
        long joined = 0;
        double right = 0;
        for (int i = 0; i < strongest.size(); i++) {
            int link = strongest.get(i);
            joined++;
            right += right(links, link);
            boolean last = i == strongest.size() - 1 || links.weight(strongest.get(i + 1)) < links.weight(link);
            if (links.rule(link) < 0 && last && right / joined >= precision) {
                best = Optional.of(new Expected(links.weight(link), joined, right / joined));
            }
        }
        return best;
    }

    /**
     * Where pairs are joined and asked about for the sake of an aim: at the weight of the weakest that is. What is more likely two
     * persons than one is never joined, whatever the others make up for.
     *
     * @param links all pairs from {@link Thresholds#LEAST} on
     */
    public static Weights.Cuts cuts(Links links, MatchRules.TargetPrecision aim) {
        double strongest = IntStream.range(0, links.size())
                .mapToDouble(links::weight)
                .max()
                .orElse(0);
        double join = forPrecision(links, aim.precision())
                .map(found -> Math.max(EVEN, found.join()))
                .orElseGet(() -> Math.max(EVEN, Math.floor(strongest) + 1));
        double[] below = IntStream.range(0, links.size())
                .filter(link -> links.rule(link) < 0 && links.weight(link) < join)
                .mapToDouble(links::weight)
                .sorted()
                .toArray();
        return new Weights.Cuts(join, below.length <= aim.asked() ? Thresholds.LEAST : ask(below, aim.asked(), join));
    }

    /** The weakest of so many at most; of those that weigh the same, all or none. */
    private static double ask(double[] below, int asked, double join) {
        int weakest = below.length - asked;
        while (weakest < below.length && below[weakest] == below[weakest - 1]) {
            weakest++;
        }
        return weakest < below.length ? below[weakest] : join;
    }

    private static boolean counts(Links links, int link, double join) {
        return links.rule(link) >= 0 || links.weight(link) >= join;
    }

    private static double right(Links links, int link) {
        return links.rule(link) >= 0 ? 1 : 1 / (1 + Math.pow(2, -links.weight(link)));
    }
}

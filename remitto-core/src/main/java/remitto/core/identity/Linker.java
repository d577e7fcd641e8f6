package remitto.core.identity;

import java.util.List;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import remitto.core.identity.evidence.BlockKey;
import remitto.core.identity.evidence.Blocks;
import remitto.core.identity.evidence.Estimator;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.tidy.Nicknames;

/**
 * Finds the pairs of records that may be one person, and weighs them. Each step is a map over records, a grouping by key, or
 * a map over pairs.
 */
public final class Linker {
    private final RecordTable table;
    private final MatchRules rules;
    private final Nicknames nicknames;

    public Linker(RecordTable table, MatchRules rules, Nicknames nicknames) {
        this.table = table;
        this.rules = rules;
        this.nicknames = nicknames;
    }

    /** What looking at the pairs of a key costs, and what it passes over. */
    public record KeyCost(BlockKey key, long pairs, long leftOut) {}

    /**
     * @param links pairs that weigh enough to be asked about, or that a rule joins, and that no rule keeps apart
     * @param compared pairs that were looked at, each once
     */
    public record Found(Links links, Weights weights, long compared, List<KeyCost> costs) {}

    /** With weights estimated from the records. */
    public Found find() {
        List<Blocks> blocks = blocks();
        return find(blocks, new Estimator(table, rules.levels(), nicknames).estimate(blocks));
    }

    /** With weights that are given. */
    public Found find(Weights weights) {
        return find(blocks(), weights);
    }

    private List<Blocks> blocks() {
        return rules.keys().stream()
                .map(key -> Blocks.of(table, key, rules.limits().block(), further(key)))
                .toList();
    }

    /** Splits large blocks by what is not in their key already, the kinds with the most values last. */
    private List<String> further(BlockKey key) {
        List<Attribute.Kind> order = List.of(
                Attribute.Kind.BIRTH_DATE,
                Attribute.Kind.POSTCODE,
                Attribute.Kind.GIVEN_NAME,
                Attribute.Kind.EMAIL,
                Attribute.Kind.PHONE);
        return order.stream()
                .flatMap(kind -> table.attributes().stream().filter(one -> one.kind() == kind))
                .map(Attribute::name)
                .filter(name ->
                        key.parts().stream().noneMatch(part -> part.attribute().equals(name)))
                .toList();
    }

    private record Piece(Links links, long compared) {}

    private Found find(List<Blocks> blocks, Weights weights) {
        Links links = new Links();
        long compared = 0;
        for (int number = 0; number < blocks.size(); number++) {
            Blocks block = blocks.get(number);
            List<Blocks> before = blocks.subList(0, number);
            IntFunction<Piece> weigh = piece -> weigh(block, before, piece, weights);
            List<Piece> pieces = IntStream.range(0, block.pieces())
                    .parallel()
                    .mapToObj(weigh)
                    .toList();
            for (Piece piece : pieces) {
                links.addAll(piece.links());
                compared += piece.compared();
            }
        }
        List<KeyCost> costs = blocks.stream()
                .map(one -> new KeyCost(one.key(), one.pairs(), one.leftOut()))
                .toList();
        return new Found(links, weights, compared, costs);
    }

    private Piece weigh(Blocks block, List<Blocks> before, int piece, Weights weights) {
        Scorer scorer = new Scorer(table, weights, nicknames);
        Links links = new Links();
        long[] compared = new long[1];
        block.pairs(piece, (one, other) -> {
            for (Blocks earlier : before) {
                if (earlier.together(one, other)) {
                    return;
                }
            }
            compared[0]++;
            double weight = scorer.weigh(one, other);
            int rule = ruleFor(one, other);
            if ((rule >= 0 || weight >= rules.thresholds().ask()) && !isApart(one, other)) {
                links.add(one, other, weight, rule);
            }
        });
        return new Piece(links, compared[0]);
    }

    private int ruleFor(int one, int other) {
        for (int i = 0; i < rules.join().size(); i++) {
            if (rules.join().get(i).holds(table, one, other)) {
                return i;
            }
        }
        return -1;
    }

    private boolean isApart(int one, int other) {
        for (MatchRule rule : rules.never()) {
            if (rule.holds(table, one, other)) {
                return true;
            }
        }
        return false;
    }
}

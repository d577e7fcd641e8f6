package remitto.core.identity;

import java.util.BitSet;
import java.util.List;
import java.util.Set;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import remitto.core.identity.evidence.BlockKey;
import remitto.core.identity.evidence.Blocks;
import remitto.core.identity.evidence.Estimator;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.normalise.Nicknames;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Dictionary;
import remitto.core.identity.record.Links;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.MatchRule;
import remitto.core.identity.rule.MatchRules;

/**
 * Finds the pairs of records that may be one person, and weighs them. Each step is a map over records, a grouping by key, or
 * a map over pairs.
 */
public final class Linker {
    private static final Set<Attribute.Kind> BROAD =
            Set.of(Attribute.Kind.BIRTH_DATE, Attribute.Kind.POSTCODE, Attribute.Kind.TOWN, Attribute.Kind.ADDRESS);

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
     * @param weights that pairs were weighed by, those set manually among them; {@code estimated} without these
     * @param compared pairs that were looked at, each once
     * @param signatures by record, what its judgements hang on; the same as long as they stay as they are
     * @param fresh records whose pairs were looked at
     */
    public record Found(
            Links links,
            Weights weights,
            Weights estimated,
            long compared,
            List<KeyCost> costs,
            long[] signatures,
            BitSet fresh) {

        /** With the cuts that an aim came to, and without the links below. */
        Found cut(Weights.Cuts cuts) {
            return new Found(
                    links.from(cuts.ask()),
                    weights.with(cuts),
                    estimated.with(cuts),
                    compared,
                    costs,
                    signatures,
                    fresh);
        }
    }

    /** With weights estimated from the records. */
    public Found find() {
        List<Blocks> blocks = blocks();
        return find(blocks, new Estimator(table, rules.levels(), nicknames).estimate(blocks));
    }

    /** With weights that are given. */
    public Found find(Weights weights) {
        return find(blocks(), weights);
    }

    /**
     * With weights that are given, looking only at pairs with a record that is not as it was; the others' judgements are taken
     * over. Comes to what {@link #find(Weights)} comes to, links in another order.
     */
    public Found findAgain(Weights weights, Earlier earlier) {
        List<Blocks> blocks = blocks();
        long[] signatures = signatures(blocks);
        BitSet fresh = earlier.fresh(signatures);
        Found found = find(blocks, weights, signatures, fresh);
        found.links().addAll(earlier.between(fresh));
        return found;
    }

    private List<Blocks> blocks() {
        return rules.keys().stream()
                .map(key -> Blocks.of(table, key, most(key), further(key)))
                .toList();
    }

    /** What many records agree in by chance is looked at where there are few. */
    private int most(BlockKey key) {
        boolean broad = key.parts().size() == 1
                && BROAD.contains(table.attributes()
                        .get(table.position(key.parts().get(0).attribute()))
                        .kind());
        return broad ? Math.max(2, rules.limits().block() / 3) : rules.limits().block();
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
        BitSet all = new BitSet(table.size());
        all.set(0, table.size());
        return find(blocks, weights, signatures(blocks), all);
    }

    /** By record, what its judgements with others hang on: its values, how rare they are, and whom it is compared with. */
    private long[] signatures(List<Blocks> blocks) {
        long[] signatures = new long[table.size()];
        for (int a = 0; a < table.attributes().size(); a++) {
            Dictionary dictionary = table.dictionary(a);
            long[] values = new long[dictionary.size()];
            for (int code = 1; code < values.length; code++) {
                values[code] = mixed(spread(dictionary.value(code)), Weights.step(dictionary.count(code)));
            }
            for (int record = 0; record < signatures.length; record++) {
                signatures[record] = mixed(signatures[record], values[table.code(a, record)]);
            }
        }
        for (Blocks block : blocks) {
            for (int record = 0; record < signatures.length; record++) {
                signatures[record] = mixed(signatures[record], block.block(record));
            }
        }
        return signatures;
    }

    private static long spread(String value) {
        long hash = 0xCBF29CE484222325L;
        for (int i = 0; i < value.length(); i++) {
            hash = (hash ^ value.charAt(i)) * 0x100000001B3L;
        }
        return hash;
    }

    private static long mixed(long before, long more) {
        long mixed = (before ^ more) * 0x9E3779B97F4A7C15L;
        return (mixed ^ (mixed >>> 29)) * 0xBF58476D1CE4E5B9L + 0x632BE59BD9B4E019L;
    }

    private Found find(List<Blocks> blocks, Weights estimated, long[] signatures, BitSet fresh) {
        Weights weights = estimated.with(rules.fixed());
        Links links = new Links();
        long compared = 0;
        for (int number = 0; number < blocks.size(); number++) {
            Blocks block = blocks.get(number);
            List<Blocks> before = blocks.subList(0, number);
            IntFunction<Piece> weigh = piece -> weigh(block, before, piece, weights, fresh);
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
        return new Found(links, weights, estimated, compared, costs, signatures, fresh);
    }

    private Piece weigh(Blocks block, List<Blocks> before, int piece, Weights weights, BitSet fresh) {
        Scorer scorer = new Scorer(table, weights, nicknames);
        Links links = new Links();
        long[] compared = new long[1];
        block.pairs(piece, (one, other) -> {
            if (!fresh.get(one) && !fresh.get(other)) {
                return;
            }
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

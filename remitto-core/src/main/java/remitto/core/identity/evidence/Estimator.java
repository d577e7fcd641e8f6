package remitto.core.identity.evidence;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import remitto.core.identity.compare.Comparer;
import remitto.core.identity.compare.Levels;
import remitto.core.identity.normalise.Nicknames;
import remitto.core.identity.record.Attribute.Kind;
import remitto.core.identity.record.Dictionary;
import remitto.core.identity.record.RecordTable;

/**
 * Estimates weights from the records alone, without labels. How often pairs that are no matches agree is counted on pairs drawn
 * at random; how often matches do is estimated from all pairs that the keys find, see {@link Mixture}.
 */
public final class Estimator {
    private static final int BLOCK_PAIRS = 100_000;
    /** Pairs of a household born on one day; common practice, no source. */
    private static final double TWINS = 0.01;
    /** Pairs that what is usual is worth, so that no level is estimated from nothing; our choice. */
    static final double USUAL_PAIRS = 100;
    /** The same for a row of an attribute that is judged in the light of another. */
    private static final double USUAL_ROW = 20;
    /** Households whose pairs are fewer than so many of the matches are none; our choice. */
    private static final double FEW = 0.02;
    /** How often it is asked again which of those who agree are strangers. */
    private static final int ROUNDS = 2;
    /** What people of one household have in common. */
    private static final Set<Kind> SHARED =
            Set.of(Kind.FAMILY_NAME, Kind.EMAIL, Kind.PHONE, Kind.ADDRESS, Kind.POSTCODE, Kind.TOWN, Kind.DOMAIN);
    /** What stays the same all life. */
    private static final Set<Kind> STEADY = Set.of(Kind.GIVEN_NAME, Kind.BIRTH_DATE, Kind.IDENTIFIER);
    /** A person's own; pairs that are found by it share more than a household. */
    private static final Set<Kind> OWN = Set.of(Kind.GIVEN_NAME, Kind.FULL_NAME, Kind.BIRTH_DATE, Kind.IDENTIFIER);
    /** Of which hardly any two strangers have the same, so that those who do are told from matches. */
    private static final Set<Kind> TELLING = Set.of(Kind.EMAIL, Kind.PHONE, Kind.IDENTIFIER);

    private final RecordTable table;
    private final List<Levels> levels;
    private final Nicknames nicknames;
    private final List<Kind> kinds;
    private final Beside beside;
    private final Set<Integer> shared = new HashSet<>();
    private final Set<Integer> steady = new HashSet<>();

    public Estimator(RecordTable table, List<Levels> levels, Nicknames nicknames) {
        this.table = table;
        this.levels = List.copyOf(levels);
        this.nicknames = nicknames;
        this.kinds = levels.stream()
                .map(one ->
                        table.attributes().get(table.position(one.attribute())).kind())
                .toList();
        this.beside = Beside.of(kinds);
        for (int i = 0; i < levels.size(); i++) {
            if (SHARED.contains(kinds.get(i))) {
                shared.add(i);
            }
            if (STEADY.contains(kinds.get(i))) {
                steady.add(i);
            }
        }
    }

    /** @param blocks of all keys; where no pair says anything of an attribute, what is commonly met is believed */
    public Weights estimate(List<Blocks> blocks) {
        boolean people = table.attributes().stream().anyMatch(one -> one.kind() == Kind.GIVEN_NAME);
        List<Mixture.Found> found = found(blocks, people);
        Strangers strangers = new Strangers(table, levels, beside, kinds, nicknames);
        double[][] any = strangers.atRandom();
        double[][] u = copy(any);
        strangers.saysNothing(shared, usual(), u);
        Mixture.Learnt learnt = learnt(found, u);
        List<Mixture.Found> believed = learnt.mates() > 0
                ? found
                : found.stream().map(Mixture.Found::withoutPlace).toList();
        for (int round = 0; round < ROUNDS; round++) {
            Weights known = weights(blocks, found, learnt, u);
            u = copy(any);
            strangers.beside(known, u);
            learnt = mixture(believed, u).learn();
        }
        return weights(blocks, found, learnt, u);
    }

    private Weights weights(List<Blocks> blocks, List<Mixture.Found> found, Mixture.Learnt learnt, double[][] counted) {
        double[][] u = copy(counted);
        double pairs = Math.max(1, table.size() * (table.size() - 1.0) / 2);
        for (int k = 0; k < blocks.size(); k++) {
            double strangers = blocks.get(k).leftOut();
            for (int f = 0; f < found.size(); f++) {
                strangers += found.get(f).key() == k ? learnt.strangers()[f] : 0;
            }
            onlyOf(blocks.get(k)).ifPresent(new Tell(u, strangers, pairs)::set);
        }
        double matches = Math.max(1, learnt.matches());
        double share = Math.min(0.5, matches / pairs);
        boolean households = learnt.mates() > 0;
        double[][] m = copy(learnt.m());
        double[][] ofHousehold = copy(learnt.m());
        for (int i = 0; i < m.length; i++) {
            Pooling.inOrder(m[i], u[i], levels.get(i).count());
            Pooling.inOrder(ofHousehold[i], learnt.h()[i], levels.get(i).count());
        }
        Weights.Odds strangers = new Weights.Odds(Weights.log2(share / (1 - share)), m, u);
        Weights.Odds mates = households
                ? new Weights.Odds(Weights.log2(matches / learnt.mates()), ofHousehold, learnt.h())
                : strangers;
        return new Weights(
                table.size(),
                levels,
                personal(households),
                strangers,
                mates,
                Optional.of(new Weights.Basis(beside, averages(), learnt.seen())),
                Optional.empty());
    }

    /** Without households where hardly any pairs are of one: some matches look like it, having another name and birth date. */
    private Mixture.Learnt learnt(List<Mixture.Found> found, double[][] u) {
        Mixture.Learnt with = mixture(found, u).learn();
        return with.mates() > FEW * with.matches()
                ? with
                : mixture(found.stream().map(Mixture.Found::withoutPlace).toList(), u)
                        .learn();
    }

    private Mixture mixture(List<Mixture.Found> found, double[][] u) {
        return new Mixture(levels, beside, found, u, usual(), usualOfHousehold(u), shared, steady);
    }

    /** Sets how often strangers agree in what a key is made of alone. */
    private record Tell(double[][] u, double strangers, double pairs) {
        void set(int attribute) {
            u[attribute][0] = Math.min(u[attribute][0], (strangers + 1) / pairs);
        }
    }

    private Optional<Integer> onlyOf(Blocks block) {
        List<BlockKey.Part> parts = block.key().parts();
        return IntStream.range(0, levels.size())
                .filter(i -> TELLING.contains(kinds.get(i))
                        && parts.size() == 1
                        && parts.get(0).equals(BlockKey.whole(levels.get(i).attribute())))
                .boxed()
                .findFirst();
    }

    private List<Mixture.Found> found(List<Blocks> blocks, boolean people) {
        return IntStream.range(0, blocks.size())
                .parallel()
                .mapToObj(k -> found(blocks, k, people))
                .flatMap(List::stream)
                .toList();
    }

    /** Pairs of blocks that were split agree in more than the key, so they are believed apart from the others. */
    private List<Mixture.Found> found(List<Blocks> blocks, int number, boolean people) {
        Blocks block = blocks.get(number);
        List<Patterns> samples = sample(blocks, number);
        List<Mixture.Found> found = new ArrayList<>();
        for (int splits = 0; splits < samples.size(); splits++) {
            List<BlockKey.Part> parts = new ArrayList<>(block.key().parts());
            block.further().subList(0, splits).forEach(name -> parts.add(BlockKey.whole(name)));
            BlockKey key = new BlockKey(parts);
            found.add(new Mixture.Found(
                    number, samples.get(splits).met(), blocked(key), agreed(key), people && isPlace(key)));
        }
        return found;
    }

    /** An address without its town is one of many, where towns are known. */
    private boolean isPlace(BlockKey key) {
        Set<Kind> found = new HashSet<>();
        for (BlockKey.Part part : key.parts()) {
            if (part.cut() == BlockKey.Cut.WHOLE) {
                found.add(kindOf(part));
            }
        }
        boolean own = key.parts().stream().map(this::kindOf).anyMatch(OWN::contains);
        boolean somewhere = found.contains(Kind.POSTCODE)
                || found.contains(Kind.TOWN)
                || !kinds.contains(Kind.POSTCODE) && !kinds.contains(Kind.TOWN);
        boolean place = found.contains(Kind.ADDRESS) && somewhere;
        return !own && (place || found.contains(Kind.EMAIL) || found.contains(Kind.PHONE));
    }

    private Kind kindOf(BlockKey.Part part) {
        return table.attributes().get(table.position(part.attribute())).kind();
    }

    /** Where there are no households nothing is shared by one. */
    private List<Boolean> personal(boolean households) {
        List<Boolean> personal = new ArrayList<>();
        for (int i = 0; i < levels.size(); i++) {
            personal.add(!households || !shared.contains(i));
        }
        return personal;
    }

    private double[][] usual() {
        double[][] usual = new double[levels.size()][];
        for (int i = 0; i < usual.length; i++) {
            boolean place = kinds.get(i) == Kind.POSTCODE || kinds.get(i) == Kind.TOWN;
            usual[i] = place ? rows(i, 0.85, 0.95, 0.3) : rows(i, 0.85);
        }
        return usual;
    }

    /** Of two of one household: what they share is often the same, what is their own seldom; birthdays of twins are. */
    private double[][] usualOfHousehold(double[][] u) {
        double[][] h = new double[levels.size()][];
        for (int i = 0; i < h.length; i++) {
            if (shared.contains(i)) {
                boolean place = kinds.get(i) == Kind.POSTCODE || kinds.get(i) == Kind.TOWN;
                h[i] = kinds.get(i) == Kind.ADDRESS ? rows(i, 0.9) : place ? rows(i, 0.6, 0.98, 0.2) : rows(i, 0.6);
            } else {
                h[i] = u[i].clone();
                if (kinds.get(i) == Kind.BIRTH_DATE && h[i][0] < TWINS) {
                    h[i][0] = TWINS;
                }
            }
        }
        return h;
    }

    /**
     * What is usual, as so many pairs.
     *
     * @param same share of the best level by itself, where the other agrees, where it differs
     */
    private double[] rows(int attribute, double... same) {
        int count = levels.get(attribute).count();
        double[] rows = new double[Math.min(same.length, beside.rows(attribute)) * count];
        for (int cell = 0; cell < rows.length; cell++) {
            double best = same[cell / count];
            double differs = count == 2 ? 1 - best : (1 - best) / 2;
            double between = count == 2 ? 0 : (1 - best) / 2 / (count - 2);
            double pairs = cell < count ? USUAL_PAIRS : USUAL_ROW;
            double share = cell % count == 0 ? best : cell % count == count - 1 ? differs : between;
            rows[cell] = pairs * share;
        }
        return rows;
    }

    private double[] averages() {
        return levels.stream()
                .mapToDouble(one -> same(table.dictionary(table.position(one.attribute()))))
                .toArray();
    }

    /** The chance that two records that have a value have the same, counted and not sampled since it may be tiny. */
    static double same(Dictionary dictionary) {
        double pairs = 0;
        double all = 0;
        for (int code = 1; code < dictionary.size(); code++) {
            double count = dictionary.count(code);
            pairs += count * (count - 1);
            all += count;
        }
        return Math.max(1, pairs) / Math.max(2, all * (all - 1));
    }

    private static double[][] copy(double[][] of) {
        return java.util.Arrays.stream(of).map(double[]::clone).toArray(double[][]::new);
    }

    /** Pairs of a key by how often their block was split, each standing for so many, and counted for its part of the keys that find it. */
    private List<Patterns> sample(List<Blocks> blocks, int number) {
        Blocks block = blocks.get(number);
        List<Patterns> patterns = new ArrayList<>();
        block.further().forEach(name -> patterns.add(new Patterns(levels)));
        patterns.add(new Patterns(levels));
        Comparer comparer = new Comparer(table, levels, nicknames);
        byte[] pattern = new byte[levels.size()];
        long step = Math.max(1, block.pairs() / BLOCK_PAIRS);
        long[] met = new long[1];
        for (int piece = 0; piece < block.pieces(); piece++) {
            block.pairs(piece, (one, other) -> {
                if (met[0]++ % step == 0) {
                    comparer.compare(one, other, pattern);
                    int keys = 0;
                    for (Blocks each : blocks) {
                        keys += each.together(one, other) ? 1 : 0;
                    }
                    patterns.get(block.splits(one)).add(pattern, step, (double) step / keys);
                }
            });
        }
        return patterns;
    }

    private Set<Integer> agreed(BlockKey key) {
        return positions(key.parts().stream()
                .filter(part -> part.cut() == BlockKey.Cut.WHOLE || part.cut() == BlockKey.Cut.FIRST_WORD)
                .map(BlockKey.Part::attribute)
                .toList());
    }

    /** The end of an address often is a name, so that it says nothing of names. */
    private Set<Integer> blocked(BlockKey key) {
        Set<Integer> blocked = positions(key.attributes());
        positions(key.parts().stream()
                        .filter(part -> part.cut() == BlockKey.Cut.TAIL)
                        .map(BlockKey.Part::attribute)
                        .toList())
                .forEach(email -> blocked.addAll(beside.others().get(email)));
        return blocked;
    }

    private Set<Integer> positions(List<String> names) {
        Set<Integer> blocked = new HashSet<>();
        for (int i = 0; i < levels.size(); i++) {
            if (names.contains(levels.get(i).attribute())) {
                blocked.add(i);
            }
        }
        return blocked;
    }
}

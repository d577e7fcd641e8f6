package remitto.core.identity.rule;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.core.identity.compare.Comparison;
import remitto.core.identity.compare.Levels;
import remitto.core.identity.evidence.BlockKey;
import remitto.core.identity.evidence.BlockKey.Cut;
import remitto.core.identity.evidence.BlockKey.Part;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Attribute.Kind;

/**
 * How records are judged the same person.
 *
 * @param levels evidence that is weighed, by attribute
 * @param join rules that join whatever the evidence
 * @param never rules that keep apart whatever the evidence
 * @param keys which pairs are looked at
 * @param thresholds in bits
 * @param fixed weights that were set manually
 */
public record MatchRules(
        List<Levels> levels,
        List<MatchRule> join,
        List<MatchRule> never,
        List<BlockKey> keys,
        Thresholds thresholds,
        GroupLimits limits,
        List<Weights.FixedWeight> fixed) {

    /**
     * In bits.
     *
     * @param join weight from which two records are joined
     * @param ask weight from which a person is asked
     * @param aim what both follow from whenever weights are estimated; empty when they are as stated
     */
    public record Thresholds(double join, double ask, Optional<TargetPrecision> aim) {
        /** Nothing that weighs less is asked about for the sake of an aim: it is one person in less than one of sixteen cases. */
        public static final double LEAST = -4;

        public Thresholds {
            if (ask > join) {
                throw new IllegalArgumentException("what is asked about cannot weigh more than what is joined");
            }
        }

        public Thresholds(double join, double ask) {
            this(join, ask, Optional.empty());
        }

        /** Those that the aim came to when weights were estimated, where there is one. */
        public Thresholds by(Weights weights) {
            return aim.flatMap(one -> weights.cuts())
                    .map(cuts -> new Thresholds(cuts.join(), cuts.ask(), aim))
                    .orElse(this);
        }
    }

    /**
     * What thresholds are to come to.
     *
     * @param precision share of the joined pairs that are expected to be right
     * @param asked pairs that somebody can look at, at most
     */
    public record TargetPrecision(double precision, int asked) {
        private static final double LEAST = 0.5;
        private static final double MOST = 0.9999;
        private static final int MOST_ASKED = 1_000_000;

        /** What is wrong with it, a sentence each. */
        public List<String> faults() {
            List<String> faults = new ArrayList<>();
            if (!(precision >= LEAST && precision <= MOST)) {
                faults.add("The precision asked for is from 50 to 99.99 per cent.");
            }
            if (asked < 0 || asked > MOST_ASKED) {
                faults.add("The number of pairs to ask about is from 0 to " + MOST_ASKED + ".");
            }
            return faults;
        }
    }

    /**
     * Guards against chains.
     *
     * @param records of a person at most; a larger group is put up for review
     * @param emails different e-mail addresses of a person at most
     * @param weakest weight that the records of two groups must have on the average to be joined by a link between them
     * @param apart weight that no two records of two groups may be below to be joined by a link between others of them
     * @param block records that are compared with each other at most
     * @param share records that may share an e-mail address, a phone number or an identifier
     */
    public record GroupLimits(int records, int emails, double weakest, double apart, int block, int share) {
        private static final int MOST = 1_000_000;

        /** What is wrong with them, a sentence each. Kept apart from making them, so that what was stored stays readable. */
        public List<String> faults() {
            List<String> faults = new ArrayList<>();
            whole(faults, "The number of records of a person", records);
            whole(faults, "The number of e-mail addresses of a person", emails);
            whole(faults, "The number of records that are compared with each other", block);
            whole(faults, "The number of records that share a value", share);
            if (!Double.isFinite(weakest) || !Double.isFinite(apart)) {
                faults.add("A weight is a number.");
            }
            return faults;
        }

        private static void whole(List<String> faults, String what, int number) {
            if (number < 1 || number > MOST) {
                faults.add(what + " is from 1 to " + MOST + ".");
            }
        }
    }

    public MatchRules {
        levels = List.copyOf(levels);
        join = List.copyOf(join);
        never = List.copyOf(never);
        keys = List.copyOf(keys);
        fixed = List.copyOf(fixed);
    }

    public MatchRules thresholds(Thresholds other) {
        return new MatchRules(levels, join, never, keys, other, limits, fixed);
    }

    public MatchRules never(List<MatchRule> other) {
        return new MatchRules(levels, join, other, keys, thresholds, limits, fixed);
    }

    public MatchRules join(List<MatchRule> other) {
        return new MatchRules(levels, other, never, keys, thresholds, limits, fixed);
    }

    /** What ships: all evidence weighed, and nothing that joins or keeps apart whatever the rest says: a number has slips, too. */
    public static MatchRules usual(List<Attribute> attributes) {
        List<Levels> levels = attributes.stream()
                .filter(one -> one.kind().isEvidence())
                .map(Levels::usual)
                .toList();
        return new MatchRules(
                levels,
                List.of(),
                List.of(),
                keys(attributes),
                new Thresholds(1, -2),
                new GroupLimits(25, 8, 0, -40, 60, 12),
                List.of());
    }

    /**
     * The keys by which pairs are found, with those that rules ask for: records are compared when they agree in all that a rule
     * compares by something that can be looked up. A rule of which nothing can be decides only about pairs found otherwise.
     */
    public static List<BlockKey> keys(List<BlockKey> usual, List<MatchRule> join) {
        List<BlockKey> keys = new ArrayList<>(usual);
        for (MatchRule rule : join) {
            List<Part> parts = rule.conditions().stream()
                    .filter(MatchCondition::agrees)
                    .flatMap(one -> cut(one.comparison()).map(cut -> new Part(one.attribute(), cut)).stream())
                    .toList();
            BlockKey key = new BlockKey(parts);
            if (!parts.isEmpty() && !keys.contains(key)) {
                keys.add(key);
            }
        }
        return keys;
    }

    private static Optional<Cut> cut(Comparison comparison) {
        if (comparison instanceof Comparison.Same) {
            return Optional.of(Cut.WHOLE);
        }
        if (comparison instanceof Comparison.SoundsAlike) {
            return Optional.of(Cut.SOUND);
        }
        if (comparison instanceof Comparison.Initial) {
            return Optional.of(Cut.INITIAL);
        }
        if (comparison instanceof Comparison.Begins begins && begins.characters() >= 4) {
            return Optional.of(Cut.BEGINNING);
        }
        return comparison instanceof Comparison.SameTail tail && tail.characters() >= Levels.TAIL
                ? Optional.of(Cut.TAIL)
                : Optional.empty();
    }

    private static List<BlockKey> keys(List<Attribute> attributes) {
        List<BlockKey> keys = new ArrayList<>();
        for (Attribute one : attributes) {
            if (one.kind() == Kind.EMAIL
                    || one.kind() == Kind.PHONE
                    || one.kind() == Kind.IDENTIFIER
                    || one.kind() == Kind.DOMAIN) {
                keys.add(new BlockKey(List.of(new Part(one.name(), Cut.WHOLE))));
            }
        }
        Optional<String> given = name(attributes, Kind.GIVEN_NAME);
        Optional<String> family = name(attributes, Kind.FAMILY_NAME);
        Optional<String> birth = name(attributes, Kind.BIRTH_DATE);
        Optional<String> postcode = name(attributes, Kind.POSTCODE).or(() -> name(attributes, Kind.TOWN));
        Optional<String> address = name(attributes, Kind.ADDRESS);
        Optional<String> town = name(attributes, Kind.TOWN);
        add(keys, part(family, Cut.SOUND), part(birth, Cut.WHOLE));
        add(keys, part(given, Cut.FIRST_WORD), part(birth, Cut.WHOLE));
        add(keys, part(given, Cut.FIRST_WORD), part(family, Cut.WHOLE));
        add(keys, part(given, Cut.EITHER_ORDER), part(family, Cut.EITHER_ORDER));
        add(keys, part(family, Cut.SOUND), part(given, Cut.INITIAL), part(postcode, Cut.WHOLE));
        add(keys, part(name(attributes, Kind.EMAIL), Cut.TAIL), part(given, Cut.INITIAL));
        add(keys, part(postcode, Cut.WHOLE), part(birth, Cut.WHOLE));
        add(keys, part(postcode, Cut.WHOLE), part(given, Cut.FIRST_WORD));
        if (postcode.isPresent() && !postcode.equals(town)) {
            add(keys, part(town, Cut.WHOLE), part(given, Cut.FIRST_WORD));
            add(keys, part(town, Cut.WHOLE), part(family, Cut.SOUND));
        }
        add(keys, part(family, Cut.WHOLE), part(postcode, Cut.WHOLE));
        if (given.isPresent()) {
            add(keys, part(address, Cut.WHOLE), part(postcode, Cut.WHOLE));
            add(keys, part(birth, Cut.WHOLE));
            add(keys, part(address, Cut.WHOLE));
            add(keys, part(postcode, Cut.WHOLE));
        }
        if (family.isEmpty()) {
            Optional<String> company = name(attributes, Kind.COMPANY);
            add(keys, part(company, Cut.WHOLE));
            add(keys, part(company, Cut.SOUND), part(postcode, Cut.WHOLE));
            add(keys, part(company, Cut.BEGINNING), part(postcode, Cut.WHOLE));
            add(keys, part(name(attributes, Kind.ADDRESS), Cut.WHOLE), part(postcode, Cut.WHOLE));
        }
        return keys;
    }

    @SafeVarargs
    private static void add(List<BlockKey> keys, Optional<Part>... parts) {
        List<Part> present = new ArrayList<>();
        for (Optional<Part> part : parts) {
            part.ifPresent(present::add);
        }
        if (present.size() == parts.length) {
            keys.add(new BlockKey(present));
        }
    }

    private static Optional<Part> part(Optional<String> attribute, Cut cut) {
        return attribute.map(name -> new Part(name, cut));
    }

    private static Optional<String> name(List<Attribute> attributes, Kind kind) {
        return attributes.stream()
                .filter(one -> one.kind() == kind)
                .map(Attribute::name)
                .findFirst();
    }
}

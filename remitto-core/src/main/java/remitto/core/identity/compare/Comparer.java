package remitto.core.identity.compare;

import java.util.List;
import java.util.Set;
import remitto.core.identity.normalise.Nicknames;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.RecordTable;

/**
 * Compares pairs of records, attribute by attribute. A nickname counts as its long form; a given and a family name that
 * were typed into each other's place count as alike. Used by one thread.
 */
public final class Comparer {
    /** The level of an attribute that one of the two has no value of. */
    public static final byte MISSING = -1;

    private static final int SECOND_BEST = 1;
    /** Letters of the shortest name that is known in another's place. */
    private static final int SHORT = 3;
    /** Kinds with nearly as many values as records: the same two seldom meet twice. */
    private static final Set<Attribute.Kind> SELDOM =
            Set.of(Attribute.Kind.EMAIL, Attribute.Kind.PHONE, Attribute.Kind.IDENTIFIER);

    private final RecordTable table;
    private final List<Levels> levels;
    private final Nicknames nicknames;
    private final int[] positions;
    private final Attribute.Kind[] kinds;
    private final LevelMemory[] memories;
    /** By attribute, the level of two initials that are the same, which are no more than that. */
    private final byte[] initials;

    private final int given;
    private final int family;

    public Comparer(RecordTable table, List<Levels> levels, Nicknames nicknames) {
        this.table = table;
        this.levels = List.copyOf(levels);
        this.nicknames = nicknames;
        this.positions =
                levels.stream().mapToInt(one -> table.position(one.attribute())).toArray();
        this.kinds = new Attribute.Kind[levels.size()];
        this.memories = new LevelMemory[levels.size()];
        this.initials = new byte[levels.size()];
        int givenAt = -1;
        int familyAt = -1;
        for (int i = 0; i < kinds.length; i++) {
            kinds[i] = table.attributes().get(positions[i]).kind();
            memories[i] = new LevelMemory();
            initials[i] = initials(levels.get(i).best());
            givenAt = kinds[i] == Attribute.Kind.GIVEN_NAME ? i : givenAt;
            familyAt = kinds[i] == Attribute.Kind.FAMILY_NAME ? i : familyAt;
        }
        this.given = givenAt;
        this.family = familyAt;
    }

    private static byte initials(List<Comparison> best) {
        for (int level = 0; level < best.size(); level++) {
            if (best.get(level) instanceof Comparison.Initial) {
                return (byte) level;
            }
        }
        return 0;
    }

    /** @param into one level for each attribute compared, {@link #MISSING} where there is nothing to compare */
    public void compare(int one, int other, byte[] into) {
        for (int i = 0; i < positions.length; i++) {
            into[i] = level(i, table.code(positions[i], one), table.code(positions[i], other));
        }
        if (given >= 0 && family >= 0 && differs(given, into) && differs(family, into)) {
            crosswise(one, other, into);
        }
    }

    private boolean differs(int at, byte[] into) {
        return into[at] == levels.get(at).count() - 1;
    }

    /** Names that were typed into each other's place are alike, with a slip or without; when only one was, it is a name less alike. */
    private void crosswise(int one, int other, byte[] into) {
        boolean first = alike(spaceless(given, one), spaceless(family, other));
        boolean second = alike(spaceless(family, one), spaceless(given, other));
        if (first && second) {
            into[given] = SECOND_BEST;
            into[family] = SECOND_BEST;
        } else if (first || second) {
            into[family] = (byte) Math.max(SECOND_BEST, levels.get(family).count() - 2);
        }
    }

    private static boolean alike(String one, String other) {
        return one.length() >= SHORT && other.length() >= SHORT && SlipDistance.atMost(one, other, 1);
    }

    private String spaceless(int at, int record) {
        return table.value(positions[at], record).replace(" ", "");
    }

    private byte level(int at, int one, int other) {
        if (one == 0 || other == 0) {
            return MISSING;
        }
        if (one == other) {
            return text(at, one).length() == 1 ? initials[at] : 0;
        }
        boolean seldom = SELDOM.contains(kinds[at]);
        int known = seldom ? -1 : memories[at].get(one, other);
        if (known >= 0) {
            return (byte) known;
        }
        byte level = (byte) compared(at, text(at, one), text(at, other));
        if (!seldom) {
            memories[at].put(one, other, level);
        }
        return level;
    }

    private String text(int at, int code) {
        return table.dictionary(positions[at]).value(code);
    }

    private int compared(int at, String one, String other) {
        List<Comparison> best = levels.get(at).best();
        for (int level = 0; level < best.size(); level++) {
            if (best.get(level).holds(one, other)) {
                return level;
            }
            if (level == SECOND_BEST && kinds[at] == Attribute.Kind.GIVEN_NAME && sameLongForm(one, other)) {
                return level;
            }
        }
        return best.size();
    }

    private boolean sameLongForm(String one, String other) {
        return one.length() > 1 && nicknames.mayBeOne(one, other);
    }
}

package remitto.core.identity.compare;

/**
 * Levels of pairs of values that were compared before, since names meet again and again. Forgets what was put in the same
 * place earlier. Used by one thread.
 */
final class LevelMemory {
    private static final int BITS = 16;

    private final long[] pairs = new long[1 << BITS];
    private final byte[] levels = new byte[1 << BITS];

    /** -1 when it is not known. */
    int get(int one, int other) {
        long pair = pair(one, other);
        int at = place(pair);
        return pairs[at] == pair ? levels[at] : -1;
    }

    void put(int one, int other, int level) {
        long pair = pair(one, other);
        int at = place(pair);
        pairs[at] = pair;
        levels[at] = (byte) level;
    }

    private static long pair(int one, int other) {
        return ((long) Math.min(one, other) << 32) | Math.max(one, other);
    }

    private static int place(long pair) {
        return (int) ((pair * 0x9E3779B97F4A7C15L) >>> (64 - BITS));
    }
}

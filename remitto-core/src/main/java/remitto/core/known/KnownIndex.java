package remitto.core.known;

import java.util.function.IntConsumer;

/**
 * What is known of every record of a route, in primitive arrays with open addressing: key hash, input
 * fingerprint, ordinal and whether the record was met in this run. About 29 bytes a slot at up to 70% full.
 * Not safe to share between threads.
 */
public final class KnownIndex {
    private static final byte USED = 1;
    private static final byte MET = 2;
    private static final byte BOUND = 4;
    private static final int STANCE_SHIFT = 3;
    private static final RecordState[] STANCES = RecordState.values();

    private long[] high;
    private long[] low;
    private long[] input;
    private int[] ordinal;
    private byte[] flags;
    private int mask;
    private int size;

    /** @param expected how many records are expected; it grows beyond */
    public KnownIndex(int expected) {
        int slots = Integer.highestOneBit(Math.max(16, (int) Math.min(1 << 30, expected * 10L / 7))) << 1;
        allocate(slots);
    }

    private void allocate(int slots) {
        high = new long[slots];
        low = new long[slots];
        input = new long[slots];
        ordinal = new int[slots];
        flags = new byte[slots];
        mask = slots - 1;
    }

    public int size() {
        return size;
    }

    /**
     * @param inputFingerprint 0 when the record must be evaluated whatever its input is
     * @param bound true when the record is bound to one there
     */
    public void put(
            long keyHigh,
            long keyLow,
            long inputFingerprint,
            int ordinalOfRecord,
            RecordState recordState,
            boolean bound) {
        if ((size + 1) * 10L > high.length * 7L) {
            grow();
        }
        int slot = probe(keyHigh, keyLow);
        if ((flags[slot] & USED) == 0) {
            size++;
        }
        high[slot] = keyHigh;
        low[slot] = keyLow;
        input[slot] = inputFingerprint;
        ordinal[slot] = ordinalOfRecord;
        flags[slot] = (byte) (USED | (bound ? BOUND : 0) | recordState.ordinal() << STANCE_SHIFT);
    }

    /**
     * Slots by ordinal, for filling in how records stand; they hold until another record is put.
     *
     * @param ordinals one more than the highest ordinal
     */
    public int[] slots(int ordinals) {
        int[] slots = new int[ordinals];
        for (int slot = 0; slot < flags.length; slot++) {
            if ((flags[slot] & USED) != 0) {
                slots[ordinal[slot]] = slot;
            }
        }
        return slots;
    }

    /** Says how the record in a slot stands. */
    public void stand(int slot, long inputFingerprint, RecordState recordState, boolean bound) {
        input[slot] = inputFingerprint;
        flags[slot] = (byte) (USED | (bound ? BOUND : 0) | recordState.ordinal() << STANCE_SHIFT);
    }

    /** The slot of a key, or -1 if it is not known. Slots change when a record is put. */
    public int find(long keyHigh, long keyLow) {
        int slot = probe(keyHigh, keyLow);
        return (flags[slot] & USED) == 0 ? -1 : slot;
    }

    public long input(int slot) {
        return input[slot];
    }

    public int ordinal(int slot) {
        return ordinal[slot];
    }

    public RecordState recordState(int slot) {
        return recordStateOf(flags[slot]);
    }

    public boolean bound(int slot) {
        return (flags[slot] & BOUND) != 0;
    }

    private static RecordState recordStateOf(byte flag) {
        return STANCES[(flag & 0xFF) >>> STANCE_SHIFT];
    }

    /** Marks a record as met in this run; false if it was met before, so that its key is doubled. */
    public boolean meet(int slot) {
        boolean first = (flags[slot] & MET) == 0;
        flags[slot] |= MET;
        return first;
    }

    /** How many bound records were not met in this run. */
    public int boundNotMet() {
        int count = 0;
        for (byte flag : flags) {
            if ((flag & BOUND) != 0 && (flag & MET) == 0) {
                count++;
            }
        }
        return count;
    }

    /** Hands over the ordinals of bound records that were not met in this run and whose leaving is not dealt with. */
    public void leavers(IntConsumer sink) {
        for (int slot = 0; slot < flags.length; slot++) {
            byte flag = flags[slot];
            if ((flag & BOUND) != 0 && (flag & MET) == 0 && !dealtWith(recordStateOf(flag))) {
                sink.accept(ordinal[slot]);
            }
        }
    }

    private static boolean dealtWith(RecordState recordState) {
        return recordState == RecordState.GONE
                || recordState == RecordState.UNDONE
                || recordState == RecordState.THERE_BEFORE;
    }

    private int probe(long keyHigh, long keyLow) {
        int slot = (int) (keyLow ^ (keyLow >>> 32)) & mask;
        while ((flags[slot] & USED) != 0 && (high[slot] != keyHigh || low[slot] != keyLow)) {
            slot = (slot + 1) & mask;
        }
        return slot;
    }

    private void grow() {
        long[] oldHigh = high;
        long[] oldLow = low;
        long[] oldInput = input;
        int[] oldOrdinal = ordinal;
        byte[] oldFlags = flags;
        allocate(Math.multiplyExact(oldHigh.length, 2));
        for (int i = 0; i < oldHigh.length; i++) {
            if ((oldFlags[i] & USED) != 0) {
                int slot = probe(oldHigh[i], oldLow[i]);
                high[slot] = oldHigh[i];
                low[slot] = oldLow[i];
                input[slot] = oldInput[i];
                ordinal[slot] = oldOrdinal[i];
                flags[slot] = oldFlags[i];
            }
        }
    }
}

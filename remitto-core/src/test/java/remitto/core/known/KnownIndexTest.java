package remitto.core.known;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class KnownIndexTest {
    private static final RecordState[] STANCES = RecordState.values();

    @Test
    void holdsWhatAMapWouldAndGrows() {
        KnownIndex index = new KnownIndex(4);
        Map<String, Integer> model = new HashMap<>();
        Fingerprint fingerprint = new Fingerprint();
        Random random = new Random(1);
        for (int i = 0; i < 50_000; i++) {
            String key = "P-" + random.nextInt(30_000);
            long[] hash = fingerprint.key(key);
            if (model.putIfAbsent(key, i) == null) {
                index.put(hash[0], hash[1], i + 1L, i, STANCES[i % STANCES.length], i % 3 == 0);
            }
        }
        assertThat(index.size()).isEqualTo(model.size());
        model.forEach((key, number) -> {
            long[] hash = fingerprint.key(key);
            int slot = index.find(hash[0], hash[1]);
            assertThat(index.ordinal(slot)).isEqualTo(number);
            assertThat(index.input(slot)).isEqualTo(number + 1L);
            assertThat(index.recordState(slot)).isEqualTo(STANCES[number % STANCES.length]);
            assertThat(index.bound(slot)).isEqualTo(number % 3 == 0);
        });
        long[] stranger = fingerprint.key("X-1");
        assertThat(index.find(stranger[0], stranger[1])).isEqualTo(-1);
    }

    @Test
    void meetingTwiceTellsADoubledKey() {
        KnownIndex index = new KnownIndex(1);
        index.put(1, 2, 3, 0, RecordState.NONE, true);
        index.put(1, 3, 3, 1, RecordState.NONE, true);
        index.put(1, 4, 3, 2, RecordState.GONE, true);
        index.put(1, 5, 3, 3, RecordState.NONE, false);
        int slot = index.find(1, 2);
        assertThat(index.meet(slot)).isTrue();
        assertThat(index.meet(slot)).isFalse();
        assertThat(index.boundNotMet()).isEqualTo(2);
        List<Integer> leavers = new ArrayList<>();
        index.leavers(leavers::add);
        assertThat(leavers).as("bound, not met, and not dealt with yet").containsExactly(1);
    }

    /** New records are put while a run meets those it knows; who was met stays met. */
    @Test
    void whoWasMetStaysMetWhileItGrows() {
        KnownIndex index = new KnownIndex(8);
        for (int i = 0; i < 10; i++) {
            index.put(i, i, 1, i, RecordState.NONE, true);
        }
        for (int i = 0; i < 10; i += 2) {
            assertThat(index.meet(index.find(i, i))).isTrue();
        }
        for (int i = 10; i < 5_000; i++) {
            index.put(i, i, 1, i, RecordState.NONE, false);
        }
        for (int i = 0; i < 10; i += 2) {
            assertThat(index.meet(index.find(i, i)))
                    .as("met before it grew: %s", i)
                    .isFalse();
        }
        assertThat(index.boundNotMet()).isEqualTo(5);
        List<Integer> leavers = new ArrayList<>();
        index.leavers(leavers::add);
        assertThat(leavers).containsExactlyInAnyOrder(1, 3, 5, 7, 9);
    }

    @Test
    void howRecordsStandIsFilledInBySlots() {
        KnownIndex index = new KnownIndex(100);
        for (int i = 0; i < 100; i++) {
            index.put(7L * i, 13L * i, 0, i, RecordState.NONE, false);
        }
        int[] slots = index.slots(100);
        for (int i = 0; i < 100; i++) {
            assertThat(slots[i]).isEqualTo(index.find(7L * i, 13L * i));
            index.stand(slots[i], 1_000 + i, STANCES[i % STANCES.length], i % 2 == 0);
        }
        for (int i = 0; i < 100; i++) {
            int slot = index.find(7L * i, 13L * i);
            assertThat(index.input(slot)).isEqualTo(1_000 + i);
            assertThat(index.recordState(slot)).isEqualTo(STANCES[i % STANCES.length]);
            assertThat(index.bound(slot)).isEqualTo(i % 2 == 0);
            assertThat(index.ordinal(slot)).isEqualTo(i);
        }
        assertThat(index.size()).as("it is no other record for that").isEqualTo(100);
    }

    /** Keys whose low halves are the same share a place to begin with, and are told apart by the high half; likewise the other way. */
    @Test
    void keysThatShareHalfOfTheirHashAreTwoKeys() {
        KnownIndex index = new KnownIndex(16);
        for (int i = 0; i < 12; i++) {
            index.put(i, 15, i, i, RecordState.NONE, false);
            index.put(99, 100 + i, i, 100 + i, RecordState.NONE, false);
        }
        assertThat(index.size()).isEqualTo(24);
        for (int i = 0; i < 12; i++) {
            assertThat(index.ordinal(index.find(i, 15))).isEqualTo(i);
            assertThat(index.ordinal(index.find(99, 100 + i))).isEqualTo(100 + i);
        }
        assertThat(index.find(12, 15)).isEqualTo(-1);
        index.put(3, 15, 77, 3, RecordState.OLDER, true);
        assertThat(index.size()).as("put again is put in its place").isEqualTo(24);
        assertThat(index.input(index.find(3, 15))).isEqualTo(77);
    }

    @Test
    void movingACharacterBetweenCellsIsAChange() {
        Fingerprint fingerprint = new Fingerprint();
        int[] all = {0, 1};
        long one = fingerprint.input(7, all, new @Nullable String[] {"ab", "c"});
        assertThat(fingerprint.input(7, all, new @Nullable String[] {"a", "bc"}))
                .isNotEqualTo(one);
        assertThat(fingerprint.input(8, all, new @Nullable String[] {"ab", "c"}))
                .isNotEqualTo(one);
        assertThat(fingerprint.input(7, all, new @Nullable String[] {"ab", "c"}))
                .isEqualTo(one);
        assertThat(fingerprint.input(7, all, new @Nullable String[] {"ab", ""}))
                .as("null is not the empty text")
                .isNotEqualTo(fingerprint.input(7, all, new @Nullable String[] {"ab", null}));
        assertThat(fingerprint.input(7, all, new @Nullable String[] {"øre", "Γιώργος"}))
                .isNotEqualTo(fingerprint.input(7, all, new @Nullable String[] {"ore", "Γιώργος"}));
    }
}

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
    private static final Stance[] STANCES = Stance.values();

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
            assertThat(index.stance(slot)).isEqualTo(STANCES[number % STANCES.length]);
            assertThat(index.bound(slot)).isEqualTo(number % 3 == 0);
        });
        long[] stranger = fingerprint.key("X-1");
        assertThat(index.find(stranger[0], stranger[1])).isEqualTo(-1);
    }

    @Test
    void meetingTwiceTellsADoubledKey() {
        KnownIndex index = new KnownIndex(1);
        index.put(1, 2, 3, 0, Stance.NONE, true);
        index.put(1, 3, 3, 1, Stance.NONE, true);
        index.put(1, 4, 3, 2, Stance.GONE, true);
        index.put(1, 5, 3, 3, Stance.NONE, false);
        int slot = index.find(1, 2);
        assertThat(index.meet(slot)).isTrue();
        assertThat(index.meet(slot)).isFalse();
        assertThat(index.boundNotMet()).isEqualTo(2);
        List<Integer> leavers = new ArrayList<>();
        index.leavers(leavers::add);
        assertThat(leavers).as("bound, not met, and not dealt with yet").containsExactly(1);
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

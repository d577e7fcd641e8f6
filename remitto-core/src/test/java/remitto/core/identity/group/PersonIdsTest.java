package remitto.core.identity.group;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class PersonIdsTest {
    @Test
    void aJoinKeepsTheOlderIdAndRetiresTheOther() {
        PersonIds.Assigned joined = PersonIds.assign(new int[] {0, 0, 0}, new long[] {5, 7, 7}, 100);
        assertThat(joined.ids()).containsExactly(5, 5, 5);
        assertThat(joined.retired()).containsEntry(7L, 5L);
        assertThat(joined.fresh()).isEmpty();
    }

    @Test
    void aRecordThatMovesTakesNoIdWithIt() {
        PersonIds.Assigned moved = PersonIds.assign(new int[] {0, 0, 2, 2}, new long[] {5, 5, 5, 7}, 100);
        assertThat(moved.ids()).containsExactly(5, 5, 7, 7);
        assertThat(moved.split()).containsExactly(5L);
        assertThat(moved.retired()).isEmpty();
    }

    @Test
    void anIdThatLostItsPlaceGoesToThePartThatIsLeft() {
        PersonIds.Assigned left = PersonIds.assign(new int[] {0, 0, 0, 3}, new long[] {5, 7, 7, 7}, 100);
        assertThat(left.ids()).containsExactly(5, 5, 5, 7);
    }

    @Test
    void aSplitLeavesTheIdWithTheLargerPart() {
        PersonIds.Assigned split = PersonIds.assign(new int[] {0, 1, 1}, new long[] {9, 9, 9}, 100);
        assertThat(split.ids()).containsExactly(100, 9, 9);
        assertThat(split.split()).containsExactly(9L);
        assertThat(split.retired()).isEmpty();
        assertThat(split.fresh()).containsExactly(100L);
    }

    @Test
    void equalPartsGoByTheFirstRecord() {
        assertThat(PersonIds.assign(new int[] {0, 1}, new long[] {9, 9}, 100).ids())
                .containsExactly(9, 100);
    }

    @Test
    void newPersonsGetIdsUpwardsFromTheFirstThatWasNeverGiven() {
        PersonIds.Assigned assigned = PersonIds.assign(new int[] {0, 1, 2}, new long[] {0, 0, 0}, 100);
        assertThat(assigned.ids()).containsExactly(100, 101, 102);
        assertThat(assigned.fresh()).containsExactlyInAnyOrder(100L, 101L, 102L);
    }

    @Property
    void everyPersonHasOneIdAndNoTwoShareOne(
            @ForAll @Size(12) List<@IntRange(min = 0, max = 5) Integer> groups,
            @ForAll @Size(12) List<@LongRange(min = 0, max = 5) Long> before) {
        int[] group = groups.stream().mapToInt(Integer::intValue).toArray();
        long[] had = before.stream().mapToLong(Long::longValue).toArray();
        PersonIds.Assigned assigned = PersonIds.assign(group, had, 50);
        for (int one = 0; one < group.length; one++) {
            for (int other = 0; other < group.length; other++) {
                assertThat(assigned.ids()[one] == assigned.ids()[other]).isEqualTo(group[one] == group[other]);
            }
        }
        for (long id : had) {
            boolean lives = id == 0 || Arrays.stream(assigned.ids()).anyMatch(one -> one == id);
            assertThat(lives || assigned.retired().containsKey(id)).isTrue();
        }
        assigned.retired().values().forEach(id -> assertThat(assigned.ids()).contains(id));
    }
}

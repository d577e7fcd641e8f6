package remitto.core.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import remitto.core.manifest.Sums;

class GuardsTest {
    @Test
    void aLimitIsAllowedAndAnythingAboveIsNot() {
        Guards guards = Guards.defaults();
        assertThat(guards.check(new Sums(1000, 0, 0, 0, 900, 100, 0), 900)).isEmpty();
        assertThat(guards.check(new Sums(1000, 0, 0, 0, 899, 101, 0), 900))
                .containsExactly("Holds 10.1% of the 1000 rows read; the limit is 10%.");
        assertThat(guards.check(new Sums(900, 0, 0, 91, 900, 0, 0), 900))
                .containsExactly("Removes 10.1% of the 900 known records; the limit is 10%.");
    }

    @Test
    void anEmptyDatasetStops() {
        assertThat(Guards.defaults().check(new Sums(0, 0, 0, 0, 0, 0, 0), 840)).hasSize(1);
        assertThat(new Guards(BigDecimal.TEN, BigDecimal.TEN, Optional.empty(), false)
                        .check(new Sums(0, 0, 0, 0, 0, 0, 0), 840))
                .isEmpty();
    }

    @Test
    void everyBrokenLimitIsNamed() {
        Guards guards = new Guards(BigDecimal.ONE, BigDecimal.ONE, Optional.of(BigDecimal.valueOf(50)), true);
        assertThat(guards.check(new Sums(100, 0, 60, 10, 20, 20, 0), 100)).hasSize(3);
    }

    @Test
    void invariant7SumsReconcile() {
        assertThatThrownBy(() -> new Sums(10, 1, 1, 0, 1, 1, 1)).isInstanceOf(IllegalArgumentException.class);
    }
}

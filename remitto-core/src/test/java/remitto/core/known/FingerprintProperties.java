package remitto.core.known;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.Size;

class FingerprintProperties {
    @Property
    void equalRowsHaveEqualFingerprintsAndOthersDoNot(
            @ForAll @Size(4) List<String> one, @ForAll @Size(4) List<String> other, @ForAll long salt) {
        int[] all = IntStream.range(0, 4).toArray();
        long first = new Fingerprint().input(salt, all, one.toArray(String[]::new));
        long second = new Fingerprint().input(salt, all, other.toArray(String[]::new));
        assertThat(first).isNotZero();
        assertThat(first == second).isEqualTo(one.equals(other));
    }

    @Property
    void aReusedBufferLeavesNothingBehind(@ForAll @Size(3) List<String> before, @ForAll @Size(3) List<String> row) {
        int[] all = {0, 1, 2};
        Fingerprint used = new Fingerprint();
        used.input(1, all, before.toArray(String[]::new));
        assertThat(used.input(1, all, row.toArray(String[]::new)))
                .isEqualTo(new Fingerprint().input(1, all, row.toArray(String[]::new)));
        assertThat(Arrays.equals(used.key(row.get(0)), new Fingerprint().key(row.get(0))))
                .isTrue();
    }
}

package remitto.core.known;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RecordStateTest {
    @ParameterizedTest
    @CsvSource({
        "NONE, false, false",
        "REFUSED, false, true",
        "UNDONE, true, false",
        "OLDER, true, false",
        "THERE_BEFORE, true, false",
        "GONE, false, false",
        "UNKNOWN, false, true"
    })
    void whatIsDoneWithARecordWhoseRowIsAsBefore(RecordState recordState, boolean leftOut, boolean held) {
        assertThat(recordState.leftOut()).isEqualTo(leftOut);
        assertThat(recordState.held()).isEqualTo(held);
    }

    /** They are kept in databases by their order. */
    @ParameterizedTest
    @CsvSource({"NONE, 0", "REFUSED, 1", "UNDONE, 2", "OLDER, 3", "THERE_BEFORE, 4", "GONE, 5", "UNKNOWN, 6"})
    void theirOrderStays(RecordState recordState, int order) {
        assertThat(recordState.ordinal()).isEqualTo(order);
    }
}

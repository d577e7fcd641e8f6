package remitto.core.receiver;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import remitto.core.dataset.ColumnType;
import remitto.core.landed.LandedColumn;

class ReceiverDefinitionTest {
    private static ReceiverDefinition of(CallsMean mean, int days, int calls, int size, String... columns) {
        return new ReceiverDefinition(
                new CallCheck.NothingAsked(),
                "",
                java.util.Arrays.stream(columns)
                        .map(name -> new LandedColumn(name, name, ColumnType.TEXT, ""))
                        .toList(),
                "",
                mean,
                "Europe/Oslo",
                days,
                calls,
                size);
    }

    @Test
    void withoutColumnsItCatchesSamples() {
        ReceiverDefinition none = of(new CallsMean.EveryCallAdds(), 0, 600, 64);
        assertThat(none.isCatching()).isTrue();
        assertThat(none.faults()).isEmpty();
        assertThat(of(new CallsMean.LatestPerKey(List.of(), "", "", List.of()), 0, 600, 64)
                        .faults())
                .as("keys are chosen once there are columns")
                .isEmpty();
        assertThat(of(new CallsMean.EveryCallAdds(), 0, 600, 64, "a").isCatching())
                .isFalse();
    }

    @Test
    void everythingThatIsWrongIsToldAtOnce() {
        assertThat(of(new CallsMean.LatestPerKey(List.of("no"), "at", "what", List.of()), -1, 0, 20_000, "a", "A")
                        .faults())
                .containsExactly(
                        "Two columns are called A.",
                        "Rows are kept for 1 to 36,500 days, or for good.",
                        "A receiver takes 1 to 600,000 calls a minute.",
                        "A body may have 1 to 10,240 kilobytes.",
                        "Enter at least one word of what that removes a record.",
                        "No column is called no.",
                        "No column is called at.",
                        "No column is called what.");
        assertThat(of(new CallsMean.LatestPerKey(List.of(), "", "", List.of()), 0, 600, 64, "a")
                        .faults())
                .containsExactly("Choose the key columns by which a call finds its record.");
    }
}

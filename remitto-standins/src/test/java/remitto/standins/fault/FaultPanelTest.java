package remitto.standins.fault;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import remitto.standins.fault.FaultPanel.Fault;

class FaultPanelTest {
    private final FaultPanel panel = new FaultPanel(FaultPanel.KINDS);

    private static Fault share(String kind, String on, double share) {
        return new Fault(kind, on, share, 0, 0);
    }

    private static Fault next(String kind, String on, int calls) {
        return new Fault(kind, on, 0, calls, 0);
    }

    private long struck(String path, int calls) {
        return IntStream.range(0, calls)
                .filter(call -> !panel.strike(path).isEmpty())
                .count();
    }

    @Test
    void nothingIsWrongUntilSomebodySwitchesItOn() {
        assertThat(struck("/api/v1/contact/batch", 100)).isZero();
    }

    @Test
    void aShareOfTheCallsIsStruck() {
        panel.arm(List.of(share("server-error", "", 0.2)));
        assertThat(struck("/api/v1/contact", 5_000) / 5_000.0).isCloseTo(0.2, within(0.03));
        panel.arm(List.of(share("server-error", "", 1)));
        assertThat(struck("/api/v1/contact", 50)).isEqualTo(50);
        panel.arm(List.of(share("server-error", "", 0)));
        assertThat(struck("/api/v1/contact", 50)).isZero();
    }

    @Test
    void soManyOfTheNextCallsAreStruckAndThenNone() {
        panel.arm(List.of(next("drop-after", "batch", 3)));
        assertThat(struck("/api/v1/whoami", 5))
                .as("another path uses none of them up")
                .isZero();
        assertThat(panel.strike("/api/v1/contact/batch"))
                .singleElement()
                .extracting(Fault::fault)
                .isEqualTo("drop-after");
        assertThat(panel.armed()).singleElement().extracting(Fault::next).isEqualTo(2);
        assertThat(struck("/api/v1/contact/batch", 10)).isEqualTo(2);
        assertThat(panel.armed()).singleElement().extracting(Fault::next).isEqualTo(0);
    }

    @Test
    void severalFaultsStrikeOneCallTogether() {
        panel.arm(List.of(
                new Fault("latency", "", 1, 0, 250), next("not-json", "contact", 1), next("not-json", "company", 1)));
        assertThat(panel.strike("/api/v1/contact"))
                .containsExactlyInAnyOrder(new Fault("latency", "", 1, 0, 250), next("not-json", "contact", 1));
    }

    @Test
    void whatIsSwitchedOnTakesThePlaceOfWhatWas() {
        panel.arm(List.of(share("too-many", "", 1)));
        panel.arm(List.of());
        assertThat(struck("/api/v1/contact", 10)).isZero();
        assertThat(panel.armed()).isEmpty();
    }

    @Test
    void aFaultThatCannotBeHadHereIsRefusedAndNothingChanges() {
        FaultPanel few = new FaultPanel(List.of("latency", "server-error"));
        few.arm(List.of(share("latency", "", 1)));
        assertThatThrownBy(() -> few.arm(List.of(share("server-error", "", 1), share("expired-token", "", 1))))
                .hasMessage("there is no fault expired-token here; there are [latency, server-error]");
        assertThat(few.armed()).extracting(Fault::fault).containsExactly("latency");
    }
}

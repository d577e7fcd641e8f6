package remitto.core.guard;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LooserGuardsTest {
    private static Limit limit(String text) {
        return text.equals("none")
                ? Limit.none()
                : text.endsWith("%")
                        ? new Limit(Optional.of(new BigDecimal(text.replace("%", ""))), Optional.empty())
                        : Limit.count(Long.parseLong(text));
    }

    @ParameterizedTest
    @CsvSource({
        "10%, 10%, false",
        "10%, 10.0%, false",
        "10%, 9%, false",
        "10%, 10.1%, true",
        "10%, none, true",
        "none, 10%, false",
        "none, none, false",
        "5, 6, true",
        "5, 4, false",
        "5, none, true",
        "5, 50%, true",
        "0%, 1, true"
    })
    void aLimitIsLooserWhereItLetsPassWhatTheOtherStops(String before, String after, boolean looser) {
        Guards old = Guards.none().removed(limit(before));
        assertThat(Guards.none().removed(limit(after)).looserThan(old)).hasSize(looser ? 1 : 0);
    }

    @Test
    void everyGuardThatIsGivenUpIsNamed() {
        Guards strict = new Guards(
                Limit.percent(1),
                Limit.percent(1),
                Limit.percent(1),
                Limit.percent(1),
                Limit.percent(1),
                true,
                Optional.of(BigDecimal.ONE),
                true,
                true);
        assertThat(Guards.none().looserThan(strict))
                .containsExactly(
                        "removed records",
                        "held records",
                        "changed records",
                        "added records",
                        "cleared values",
                        "a shrinking dataset",
                        "seven days together",
                        "an empty dataset",
                        "a changed destination");
        assertThat(strict.looserThan(Guards.none())).isEmpty();
        assertThat(strict.looserThan(strict)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"-5%, 1", "1e308%, 1", "100.00001%, 1", "101%, 1", "-1, 1", "100%, 0", "0%, 0", "33.3333%, 0", "0, 0"})
    void whatIsNoLimitIsAFault(String limit, int faults) {
        assertThat(Guards.none().held(limit(limit)).faults()).hasSize(faults);
    }
}

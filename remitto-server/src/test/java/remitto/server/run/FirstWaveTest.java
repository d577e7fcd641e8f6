package remitto.server.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import remitto.core.route.Waves;

class FirstWaveTest {
    private static final Waves TEN = new Waves(10, true, BigDecimal.valueOf(5));

    private static FirstWave fresh(Waves waves) {
        return new FirstWave(Optional.of(waves), 0, 0, false);
    }

    @Test
    void onlyTheFirstWaveIsGrantedUntilItsOutcomesAreKnown() {
        FirstWave wave = fresh(TEN);
        assertThat(wave.grant(8)).isEqualTo(8);
        wave.gave(8);
        assertThat(wave.isFull()).isFalse();
        assertThat(wave.grant(8)).isEqualTo(2);
        wave.gave(2);
        assertThat(wave.isFull()).isTrue();
        assertThat(wave.grant(8)).isZero();
        wave.settled(10, 0);
        assertThat(wave.settle(() -> true)).isTrue();
        assertThat(wave.closed()).isEmpty();
        assertThat(wave.grant(500)).isEqualTo(500);
    }

    @Test
    void progressIsWhatHasItsOutcomeAndNothingThatWasOnlyTaken() {
        Progress progress = new Progress();
        progress.begin(10);
        FirstWave wave = FirstWave.none();
        wave.tell(progress);
        wave.gave(10);
        assertThat(progress.snapshot().done()).isZero();
        wave.settled(4, 1);
        wave.settled(2, 0);
        assertThat(progress.snapshot().done()).isEqualTo(6);
        assertThat(progress.snapshot().total()).isEqualTo(10);
    }

    @Test
    void tooManyRefusalsCloseItWithTheCount() {
        FirstWave wave = fresh(TEN);
        wave.gave(10);
        wave.settled(10, 1);
        assertThat(wave.settle(() -> true)).isFalse();
        assertThat(wave.closed())
                .contains("The first wave of 10 was sent, 1 refused; the rest waits for confirmation.");
    }

    @Test
    void whoMustStopDoesNotWaitForOutcomesThatNeverCome() {
        FirstWave wave = fresh(TEN);
        wave.gave(10);
        assertThat(wave.settle(() -> false)).isFalse();
    }

    @Test
    void aWordOrNoWavesAtAllLetEverythingGo() {
        assertThat(new FirstWave(Optional.of(TEN), 10, 9, true).grant(400)).isEqualTo(400);
        assertThat(FirstWave.none().grant(400)).isEqualTo(400);
        assertThat(FirstWave.none().closed()).isEmpty();
    }
}

package remitto.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

class NeedsPersonTest {
    @ParameterizedTest
    @EnumSource(RunState.class)
    void whatWaitsOrWentWrongStaysInSight(RunState state) {
        boolean open =
                switch (state) {
                    case AWAITING_APPROVAL, SUSPENDED, INTERRUPTED, FAILED -> true;
                    case PREPARING, READY, SENDING, SENT, DISCARDED, CANCELLED, SKIPPED -> false;
                };
        assertThat(NeedsPerson.isOpen(state, RunTrigger.TIMETABLE)).isEqualTo(open);
    }

    @Test
    void aTrialThatFailedWasToldToWhoeverTried() {
        assertThat(NeedsPerson.isOpen(RunState.FAILED, RunTrigger.TRIAL)).isFalse();
        assertThat(NeedsPerson.isOpen(RunState.SUSPENDED, RunTrigger.TRIAL)).isTrue();
    }

    @ParameterizedTest
    @CsvSource({
        // failed, later, its state | settled
        "TIMETABLE, TIMETABLE, SENT,      true",
        "TIMETABLE, HAND,      READY,     true",
        "TIMETABLE, HAND,      AWAITING_APPROVAL,   true",
        "TIMETABLE, TIMETABLE, FAILED,    true",
        "TIMETABLE, TIMETABLE, SKIPPED,   false",
        "TIMETABLE, HAND,      DISCARDED, false",
        "TIMETABLE, HAND,      CANCELLED, false",
        "TIMETABLE, TRIAL,     SENT,      false",
        "TIMETABLE, UNDO,      SENT,      false",
        "TIMETABLE, RETRY,     SENT,      false",
        "RETRY,     RETRY,     SENT,      true",
        "RETRY,     HAND,      SENT,      true",
        "UNDO,      HAND,      SENT,      false",
        "UNDO,      UNDO,      SENT,      true"
    })
    void aFailureIsSettledByARunThatSaysTheSame(RunTrigger failed, RunTrigger later, RunState state, boolean settled) {
        assertThat(NeedsPerson.settles(failed, later, state)).isEqualTo(settled);
    }
}

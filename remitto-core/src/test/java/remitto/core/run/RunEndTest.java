package remitto.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/** What a run is once a server has done its work on it. */
class RunEndTest {
    private static String told(java.util.Optional<RunEnd> end) {
        return end.map(one -> one.state() + " " + one.suspension() + ": " + one.message())
                .orElse("left to another server");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                // asked, stopped by guards, lines that go
                "NOTHING | false | 3 | READY NONE:",
                "NOTHING | false | 0 | SENT NONE: Nothing to send",
                "NOTHING | true | 3 | AWAITING_APPROVAL NONE: too many. too few.",
                "NOTHING | true | 0 | AWAITING_APPROVAL NONE: too many. too few.",
                "CANCEL | false | 3 | CANCELLED NONE: Cancelled while it was prepared; nothing was sent",
                "CANCEL | true | 0 | CANCELLED NONE: Cancelled while it was prepared; nothing was sent",
                "PAUSE | false | 3 | CANCELLED NONE: Cancelled while it was prepared; nothing was sent",
                "LET_GO | false | 3 | left to another server",
                "LET_GO | true | 0 | left to another server",
            })
    void onceItIsDrawnUp(Asked asked, boolean stopped, long moving, String end) {
        List<String> stops = stopped ? List.of("too many.", "too few.") : List.of();
        assertThat(told(RunEnd.ofPreparation(asked, stops, moving)).strip()).isEqualTo(end);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                // asked, lines without an outcome
                "NOTHING | 0 | SENT NONE:",
                "CANCEL | 5 | CANCELLED NONE: Cancelled; the calls in flight were finished",
                "PAUSE | 5 | SUSPENDED PAUSED: Paused; the calls in flight were finished",
                // A server that ends, or has lost the run, decides nothing about it: it is not cancelled.
                "LET_GO | 5 | left to another server",
                "LET_GO | 0 | left to another server",
            })
    void onceSendingEndedWithoutAHalt(Asked asked, long left, String end) {
        assertThat(told(RunEnd.ofSending(Suspension.NONE, "", asked, left)).strip())
                .isEqualTo(end);
    }

    /** Nothing is called sent that was not, whatever went wrong. */
    @Test
    void whatIsLeftForNoReasonIsNotSent() {
        assertThat(told(RunEnd.ofSending(Suspension.NONE, "", Asked.NOTHING, 7)))
                .isEqualTo("SUSPENDED FAULT: 7 lines were not sent, for no known reason. Send the manifest again"
                        + " to go on with what is left");
        assertThat(told(RunEnd.ofSending(Suspension.NONE, "", Asked.NOTHING, 1)))
                .startsWith("SUSPENDED FAULT: One line was not sent");
    }

    /** What somebody wishes counts more than what befalls a server, whichever is first. */
    @ParameterizedTest
    @CsvSource({
        "NOTHING, LET_GO, LET_GO",
        "LET_GO, PAUSE, PAUSE",
        "PAUSE, CANCEL, CANCEL",
        "LET_GO, CANCEL, CANCEL",
        "CANCEL, CANCEL, CANCEL"
    })
    void theStrongestCounts(Asked weak, Asked strong, Asked counts) {
        assertThat(weak.and(strong)).isEqualTo(counts);
        assertThat(strong.and(weak)).isEqualTo(counts);
    }

    /** A halt is told even when somebody asked for the end meanwhile: lines are left either way, and the reason is the tool's. */
    @ParameterizedTest
    @EnumSource(
            value = Suspension.class,
            names = {"NONE", "LOST"},
            mode = EnumSource.Mode.EXCLUDE)
    void aHaltIsToldWhateverWasAsked(Suspension suspension) {
        for (Asked asked : Asked.values()) {
            RunEnd end = RunEnd.ofSending(suspension, "it said so", asked, 3).orElseThrow();
            assertThat(end).isEqualTo(new RunEnd(RunState.SUSPENDED, suspension, "it said so"));
        }
    }

    @Test
    void whatAnotherServerHasIsLeftToIt() {
        assertThat(RunEnd.ofSending(Suspension.LOST, "", Asked.NOTHING, 0)).isEmpty();
    }

    /** Whatever ends, ends in a state that may follow. */
    @Test
    void everyEndFollowsWhatItEnds() {
        for (Asked asked : Asked.values()) {
            for (long left : List.of(0L, 1L)) {
                for (List<String> stops : List.of(List.<String>of(), List.of("too many."))) {
                    RunEnd.ofPreparation(asked, stops, left)
                            .ifPresent(end -> assertThat(RunMoves.may(RunState.PREPARING, end.state()))
                                    .as(end.toString())
                                    .isTrue());
                }
                for (Suspension suspension : Suspension.values()) {
                    RunEnd.ofSending(suspension, "", asked, left)
                            .ifPresent(end -> assertThat(RunMoves.may(RunState.SENDING, end.state()))
                                    .as(end.toString())
                                    .isTrue());
                }
            }
        }
    }

    @ParameterizedTest
    @CsvSource({
        "SENT,      0, 0, false",
        "SENT,      1, 0, true",
        "SENT,      0, 1, true",
        "SUSPENDED,    1, 1, false",
        "CANCELLED, 1, 1, false",
        "READY,     1, 0, false"
    })
    void aManifestIsOverInPartWhereRecordsStayedBehind(RunState state, long held, long missed, boolean inPart) {
        assertThat(RunEnd.isInPart(state, new RunCounts(3, 0, 3 - held, 0, 0, 0, held, 0), missed))
                .isEqualTo(inPart);
    }
}

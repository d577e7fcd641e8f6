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
        return end.map(one -> one.state() + " " + one.halt() + ": " + one.message())
                .orElse("left to another server");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                // cancelled, the server ends, stopped by guards, lines that go
                "false | false | false | 3 | DRAWN NONE:",
                "false | false | false | 0 | SENT NONE: Nothing to send",
                "false | false | true | 3 | STOPPED NONE: too many. too few.",
                "false | false | true | 0 | STOPPED NONE: too many. too few.",
                "true | false | false | 3 | CANCELLED NONE: Cancelled while it was drawn up; nothing was sent",
                "true | false | true | 0 | CANCELLED NONE: Cancelled while it was drawn up; nothing was sent",
                "true | true | false | 3 | left to another server",
                "true | true | true | 0 | left to another server",
                // A server that ends while it is not cancelled has drawn it up to the end.
                "false | true | false | 3 | DRAWN NONE:",
            })
    void onceItIsDrawnUp(boolean cancelled, boolean serverEnds, boolean stopped, long moving, String end) {
        List<String> stops = stopped ? List.of("too many.", "too few.") : List.of();
        assertThat(told(RunEnd.ofDrawing(new RunEnd.Asked(false, cancelled, serverEnds), stops, moving))
                        .strip())
                .isEqualTo(end);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                // paused, cancelled, the server ends
                "false | false | false | SENT NONE:",
                "false | true | false | CANCELLED NONE: Cancelled; the calls in flight were finished",
                "false | true | true | left to another server",
                "true | true | false | HALTED PAUSED: Paused; the calls in flight were finished",
                "true | true | true | HALTED PAUSED: Paused; the calls in flight were finished",
                "false | false | true | SENT NONE:"
            })
    void onceSendingEndedWithoutAHalt(boolean paused, boolean cancelled, boolean serverEnds, String end) {
        assertThat(told(RunEnd.ofSending(Halt.NONE, "", new RunEnd.Asked(paused, cancelled, serverEnds)))
                        .strip())
                .isEqualTo(end);
    }

    /** A halt is told even when somebody asked for the end meanwhile: lines are left either way, and the reason is the tool's. */
    @ParameterizedTest
    @EnumSource(
            value = Halt.class,
            names = {"NONE", "LOST"},
            mode = EnumSource.Mode.EXCLUDE)
    void aHaltIsToldWhateverWasAsked(Halt halt) {
        for (boolean cancelled : List.of(true, false)) {
            RunEnd end = RunEnd.ofSending(halt, "it said so", new RunEnd.Asked(false, cancelled, cancelled))
                    .orElseThrow();
            assertThat(end).isEqualTo(new RunEnd(RunState.HALTED, halt, "it said so"));
        }
    }

    @Test
    void whatAnotherServerHasIsLeftToIt() {
        assertThat(RunEnd.ofSending(Halt.LOST, "", new RunEnd.Asked(false, false, false)))
                .isEmpty();
    }

    /** Whatever ends, ends in a state that may follow. */
    @Test
    void everyEndFollowsWhatItEnds() {
        for (boolean one : List.of(true, false)) {
            for (boolean other : List.of(true, false)) {
                RunEnd.Asked asked = new RunEnd.Asked(one && other, one || other, other);
                for (List<String> stops : List.of(List.<String>of(), List.of("too many."))) {
                    RunEnd.ofDrawing(asked, stops, one ? 1 : 0)
                            .ifPresent(end -> assertThat(RunMoves.may(RunState.DRAWING, end.state()))
                                    .as(end.toString())
                                    .isTrue());
                }
                for (Halt halt : Halt.values()) {
                    RunEnd.ofSending(halt, "", asked)
                            .ifPresent(end -> assertThat(RunMoves.may(RunState.SENDING, end.state()))
                                    .as(end.toString())
                                    .isTrue());
                }
            }
        }
    }
}

package remitto.core.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.run.Suspension;

/** What follows after a call, whatever it was that ended it. */
class AfterCallTest {
    private static final AfterCall.Words WORDS = new AfterCall.Words("Purser CRM", "a call");
    private static final Backoff BACKOFF = Backoff.defaults();
    private static final CallEnd UNHEARD = new CallEnd.Unheard("500 something broke");

    private static AfterCall after(CallEnd end, int attempt, int waits, int lines, boolean open) {
        return AfterCall.of(end, new AfterCall.At(attempt, waits, lines, open), WORDS, BACKOFF, 0.5);
    }

    private static CallEnd end(String name) {
        return switch (name) {
            case "overloaded" -> new CallEnd.Overloaded();
            case "not made" -> new CallEnd.NotMade("nobody answers there");
            case "unheard" -> UNHEARD;
            default -> throw new IllegalArgumentException(name);
        };
    }

    @ParameterizedTest
    @CsvSource({
        "overloaded, it is overloaded and does not say until when",
        "not made, nobody answers there",
        "unheard, 500 something broke"
    })
    void aToolThatMayBeIllIsTriedAgainUntilEnoughWasTried(String name, String why) {
        CallEnd end = end(name);
        assertThat(end.isAgainstTheTool()).isTrue();
        for (int attempt = 1; attempt < BACKOFF.tries(); attempt++) {
            assertThat(after(end, attempt, 0, 250, false)).isEqualTo(new AfterCall.Again(BACKOFF.pause(attempt, 0.5)));
        }
        assertThat(after(end, 6, 0, 250, false))
                .isEqualTo(new AfterCall.Stop(Suspension.FAULT, "Purser CRM did not take a call in 6 tries: " + why));
        assertThat(after(end, 1, 0, 250, true))
                .as("what goes on by itself, rather than be tried in vain")
                .isEqualTo(new AfterCall.Stop(Suspension.CIRCUIT, "Purser CRM does not answer: " + why));
        assertThat(after(end, 6, 0, 250, true))
                .isInstanceOfSatisfying(AfterCall.Stop.class, stop -> assertThat(stop.suspension())
                        .isEqualTo(Suspension.CIRCUIT));
    }

    /** However often: it is not ill, and says when it takes more. Nothing of it counts as a try. */
    @Test
    void whoAsksToWaitIsWaitedFor() {
        CallEnd asked = new CallEnd.AskedToWait(Duration.ofSeconds(7));
        assertThat(asked.isAgainstTheTool()).isFalse();
        for (int waits : List.of(1, 2, AfterCall.MOST_WAITS)) {
            assertThat(after(asked, 9, waits, 250, false)).isEqualTo(new AfterCall.Later(Duration.ofSeconds(7)));
        }
        assertThat(after(asked, 1, AfterCall.MOST_WAITS + 1, 250, false))
                .isEqualTo(new AfterCall.Stop(Suspension.FAULT, "Purser CRM asked to wait 60 times in a row"));
    }

    @Test
    void aRefusedBatchIsSplitUntilTheBadRecordStandsAlone() {
        CallEnd refused = new CallEnd.Refused(422, "the batch holds an unknown port");
        assertThat(refused.isAgainstTheTool()).isFalse();
        assertThat(after(refused, 1, 0, 250, false)).isEqualTo(new AfterCall.Split());
        assertThat(after(refused, 6, 0, 2, false)).isEqualTo(new AfterCall.Split());
        assertThat(after(refused, 1, 0, 1, false))
                .isEqualTo(new AfterCall.RefusedAlone("422: the batch holds an unknown port"));
    }

    /** Splitting would sign in in vain for each half. */
    @ParameterizedTest
    @ValueSource(ints = {401, 403})
    void whoeverIsNotLetInStops(int status) {
        CallEnd refused = new CallEnd.Refused(status, "who are you?");
        for (int lines : List.of(1, 250)) {
            assertThat(after(refused, 1, 0, lines, false))
                    .isEqualTo(new AfterCall.Stop(
                            Suspension.FAULT, "Purser CRM refused to sign in (" + status + "): who are you?"));
        }
    }

    /** A file is one call, and said to be one. */
    @Test
    void whatItWasToTakeIsSaid() {
        AfterCall after = AfterCall.of(
                UNHEARD, new AfterCall.At(6, 0, 1, false), new AfterCall.Words("Slipway", "the file"), BACKOFF, 0);
        assertThat(after)
                .isEqualTo(new AfterCall.Stop(
                        Suspension.FAULT, "Slipway did not take the file in 6 tries: 500 something broke"));
    }
}

package remitto.server.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import remitto.core.run.Asked;

class WorkingTest {
    private final Working working = new Working();

    @Test
    void theEndOfOneTurnDoesNotEndTheNext() {
        Progress preparation = new Progress();
        Progress sending = new Progress();
        working.begin(7, preparation);
        working.begin(7, sending);

        working.end(7, preparation);
        assertThat(working.progress(7)).containsSame(sending);
        assertThat(working.runs()).containsExactly(7L);

        working.end(7, sending);
        assertThat(working.runs()).isEmpty();
    }

    @Test
    void allThatIsWorkedOnCanBeLeft() {
        Progress one = new Progress();
        Progress other = new Progress();
        working.begin(1, one);
        working.begin(2, other);

        working.letGoOfAll();

        assertThat(List.of(one.asked(), other.asked())).containsOnly(Asked.LET_GO);
    }

    /** Whoever asked about the turns of a moment says nothing about one that began since. */
    @Test
    void theTurnsOfAMomentStayThoseOfThatMoment() {
        Progress lost = new Progress();
        Progress next = new Progress();
        working.begin(7, lost);

        Map<Long, Progress> turns = working.turns();
        working.begin(7, next);
        turns.values().forEach(turn -> turn.ask(Asked.LET_GO));

        assertThat(lost.isToStop()).isTrue();
        assertThat(next.isToStop()).isFalse();
    }
}

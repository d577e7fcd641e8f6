package remitto.server.run;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class WorkingTest {
    private final Working working = new Working();

    @Test
    void theEndOfOneTurnDoesNotEndTheNext() {
        Progress drawing = new Progress();
        Progress sending = new Progress();
        working.begin(7, drawing);
        working.begin(7, sending);

        working.end(7, drawing);
        assertThat(working.progress(7)).containsSame(sending);
        assertThat(working.runs()).containsExactly(7L);

        working.end(7, sending);
        assertThat(working.runs()).isEmpty();
    }

    @Test
    void allThatIsWorkedOnCanBeCancelled() {
        Progress one = new Progress();
        Progress other = new Progress();
        working.begin(1, one);
        working.begin(2, other);

        working.cancelAll();

        assertThat(one.isCancelled()).isTrue();
        assertThat(other.isCancelled()).isTrue();
    }
}

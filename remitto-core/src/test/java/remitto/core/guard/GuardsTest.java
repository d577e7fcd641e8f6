package remitto.core.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import remitto.core.run.RunCounts;

class GuardsTest {
    private static RunCounts removing(long removed, long known) {
        return new RunCounts(known - removed, removed, 0, 0, removed, known - removed, 0, 0);
    }

    private static List<String> check(Guards guards, RunCounts counts, long known) {
        return guards.check(GuardInput.of(counts, known));
    }

    @Test
    void aLimitIsAllowedAndAnythingAboveIsNot() {
        Guards guards = Guards.defaults();
        assertThat(check(guards, new RunCounts(1000, 0, 0, 0, 0, 900, 100, 0), 900))
                .isEmpty();
        assertThat(check(guards, new RunCounts(1000, 0, 0, 0, 0, 899, 101, 0), 900))
                .containsExactly("Holds 10.1% of the 1000 rows read; the limit is 10%.");
        assertThat(check(guards, removing(90, 900), 900)).isEmpty();
        assertThat(check(guards, removing(91, 900), 900))
                .containsExactly("Removes 10.1% of the 900 known records; the limit is 10%.");
    }

    @Test
    void aCountLimitsToo() {
        Guards guards = Guards.none().removed(Limit.count(5));
        assertThat(check(guards, removing(5, 10), 10)).isEmpty();
        assertThat(check(guards, removing(6, 10), 10))
                .containsExactly("Removes 6 of the 10 known records; the limit is 5.");
    }

    @Test
    void anEmptyDatasetStops() {
        RunCounts empty = new RunCounts(0, 0, 0, 0, 0, 0, 0, 0);
        assertThat(check(Guards.defaults(), empty, 840)).hasSize(1);
        assertThat(check(Guards.none(), empty, 840)).isEmpty();
    }

    @Test
    void massAdditionsStopButNotAFirstRun() {
        RunCounts adding = new RunCounts(300, 0, 200, 0, 0, 100, 0, 0);
        assertThat(check(Guards.defaults(), adding, 0)).isEmpty();
        assertThat(check(Guards.defaults(), adding, 100))
                .containsExactly("Adds 200.0% to the 100 known records; the limit is 50%.");
    }

    @Test
    void valuesClearedAreCountedPerField() {
        GuardInput clearing = new GuardInput(
                new RunCounts(100, 0, 0, 60, 0, 40, 0, 0),
                100,
                Map.of("mobile", 21L, "email", 20L),
                Optional.empty(),
                List.of(),
                0,
                0);
        assertThat(Guards.defaults().check(clearing))
                .containsExactly("Clears mobile in 21.0% of the 100 known records; the limit is 20%.");
    }

    @Test
    void aDatasetThatShrankStops() {
        GuardInput shrunk = new GuardInput(
                new RunCounts(69, 0, 0, 0, 0, 69, 0, 0), 0, Map.of(), Optional.of(100L), List.of(), 0, 0);
        assertThat(Guards.defaults().check(shrunk))
                .containsExactly("The dataset shrank by 31.0% from 100 to 69 rows; the limit is 30%.");
        GuardInput grown = new GuardInput(
                new RunCounts(120, 0, 0, 0, 0, 120, 0, 0), 0, Map.of(), Optional.of(100L), List.of(), 0, 0);
        assertThat(Guards.defaults().check(grown)).isEmpty();
    }

    @Test
    void smallRemovalsOfAWeekAddUp() {
        Guards guards = new Guards(
                Limit.percent(10),
                Limit.none(),
                Limit.none(),
                Limit.none(),
                Limit.none(),
                true,
                Optional.empty(),
                false,
                false);
        RunCounts five = removing(5, 100);
        assertThat(guards.check(new GuardInput(five, 100, Map.of(), Optional.empty(), List.of(), 5, 0)))
                .isEmpty();
        assertThat(guards.check(new GuardInput(five, 100, Map.of(), Optional.empty(), List.of(), 6, 0)))
                .containsExactly("Removes 11.0% in seven days, this run among them; the limit is 10%.");
    }

    private static Guards ofTheWeek(Limit removed, Limit added) {
        return new Guards(
                removed, Limit.none(), Limit.none(), added, Limit.none(), true, Optional.empty(), false, false);
    }

    /** What is asked of additions is what share they are of the records before the week. */
    @Test
    void smallAdditionsOfAWeekAddUp() {
        Guards guards = ofTheWeek(Limit.none(), Limit.percent(20));
        RunCounts ten = new RunCounts(120, 0, 10, 0, 0, 110, 0, 0);
        assertThat(guards.check(new GuardInput(ten, 110, Map.of(), Optional.empty(), List.of(), 0, 10)))
                .as("20 of the 100 that there were")
                .isEmpty();
        assertThat(guards.check(new GuardInput(ten, 111, Map.of(), Optional.empty(), List.of(), 0, 11)))
                .containsExactly("Adds 21.0% in seven days, this run among them; the limit is 20%.");
        assertThat(guards.check(new GuardInput(ten, 11, Map.of(), Optional.empty(), List.of(), 0, 11)))
                .as("none was there before the week; this run alone stops")
                .containsExactly("Adds 90.9% to the 11 known records; the limit is 20%.");
    }

    /** What other runs did alone stops no run that does nothing of the kind. */
    @Test
    void theWeekSpeaksOnlyToARunThatAddsToIt() {
        Guards guards = ofTheWeek(Limit.count(3), Limit.count(3));
        RunCounts quiet = new RunCounts(100, 0, 0, 0, 0, 100, 0, 0);
        assertThat(guards.check(new GuardInput(quiet, 100, Map.of(), Optional.empty(), List.of(), 50, 50)))
                .isEmpty();
        RunCounts one = new RunCounts(101, 1, 1, 0, 1, 100, 0, 0);
        assertThat(guards.check(new GuardInput(one, 100, Map.of(), Optional.empty(), List.of(), 0, 0)))
                .isEmpty();
        assertThat(guards.check(new GuardInput(one, 100, Map.of(), Optional.empty(), List.of(), 2, 2)))
                .isEmpty();
        assertThat(guards.check(new GuardInput(one, 100, Map.of(), Optional.empty(), List.of(), 3, 3)))
                .containsExactly(
                        "Removes 4 in seven days, this run among them; the limit is 3.",
                        "Adds 4 in seven days, this run among them; the limit is 3.");
    }

    @Test
    void aFirstRunAddsAsManyAsThereAre() {
        Guards guards = new Guards(
                Limit.none(),
                Limit.none(),
                Limit.none(),
                Limit.count(5),
                Limit.none(),
                false,
                Optional.empty(),
                false,
                false);
        RunCounts six = new RunCounts(6, 0, 6, 0, 0, 0, 0, 0);
        assertThat(check(guards, six, 0)).isEmpty();
        assertThat(check(guards, six, 1)).containsExactly("Adds 6 to the 1 known records; the limit is 5.");
    }

    @Test
    void recordsHeldAreAShareOfRowsAndLeavers() {
        Guards guards = Guards.none().held(Limit.percent(10));
        assertThat(check(guards, new RunCounts(80, 20, 0, 0, 10, 80, 10, 0), 100))
                .isEmpty();
        assertThat(check(guards, new RunCounts(80, 20, 0, 0, 9, 80, 11, 0), 100))
                .hasSize(1);
    }

    @Test
    void aDatasetThatIsAsLargeAsBeforeOrEmptyDidNotShrink() {
        for (long read : new long[] {100, 70, 0}) {
            GuardInput run = new GuardInput(
                    new RunCounts(read, 0, 0, 0, 0, read, 0, 0), 0, Map.of(), Optional.of(100L), List.of(), 0, 0);
            assertThat(new Guards(
                                    Limit.none(),
                                    Limit.none(),
                                    Limit.none(),
                                    Limit.none(),
                                    Limit.none(),
                                    false,
                                    Optional.of(BigDecimal.valueOf(30)),
                                    false,
                                    false)
                            .check(run))
                    .as("%s of 100 rows", read)
                    .isEmpty();
        }
    }

    @Test
    void limitsThatAreNoneAreNamed() {
        Guards wrong = new Guards(
                Limit.percent(101),
                Limit.count(-1),
                Limit.percent(0),
                Limit.count(0),
                Limit.none(),
                false,
                Optional.of(BigDecimal.valueOf(-5)),
                false,
                false);
        assertThat(wrong.faults())
                .containsExactly(
                        "The limit of removed records is a share from 0 to 100 percent.",
                        "The limit of held records is a number of records, not less than 0.",
                        "The limit of a shrinking dataset is a share from 0 to 100 percent.");
        assertThat(Guards.defaults().faults()).isEmpty();
    }

    @Test
    void aChangedSchemaStopsWhenAsked() {
        Guards guards = new Guards(
                Limit.none(),
                Limit.none(),
                Limit.none(),
                Limit.none(),
                Limit.none(),
                false,
                Optional.empty(),
                false,
                true);
        RunCounts counts = new RunCounts(1, 0, 0, 0, 0, 1, 0, 0);
        List<String> changes = List.of("home_port takes 40 characters, was 60");
        assertThat(guards.check(new GuardInput(counts, 1, Map.of(), Optional.empty(), changes, 0, 0)))
                .containsExactly("The destination changed: home_port takes 40 characters, was 60.");
        assertThat(Guards.none().check(new GuardInput(counts, 1, Map.of(), Optional.empty(), changes, 0, 0)))
                .isEmpty();
    }

    @Test
    void everyBrokenLimitIsNamed() {
        Guards guards = new Guards(
                Limit.percent(1),
                Limit.percent(1),
                Limit.percent(50),
                Limit.none(),
                Limit.none(),
                false,
                Optional.of(BigDecimal.ONE),
                true,
                false);
        assertThat(check(guards, new RunCounts(100, 10, 0, 60, 10, 20, 20, 0), 100))
                .hasSize(3);
    }

    @Test
    void invariant7SumsReconcile() {
        assertThatThrownBy(() -> new RunCounts(10, 0, 1, 1, 0, 1, 1, 1)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> new RunCounts(4, 0, 1, 1, 1, 1, 1, 0)).isInstanceOf(IllegalArgumentException.class);
        assertThat(new RunCounts(4, 1, 1, 1, 1, 1, 1, 0).moving()).isEqualTo(3);
    }
}

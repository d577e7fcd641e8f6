package remitto.server.migration;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;

/** An installation of before, with runs in every state, comes to the names of today without losing any of them. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class WordsOfTheTradeTest {
    private static final List<String> STATES = List.of(
            "DRAWING",
            "DRAWN",
            "STOPPED",
            "SENDING",
            "SENT",
            "HALTED",
            "DISCARDED",
            "CANCELLED",
            "INTERRUPTED",
            "FAILED",
            "SKIPPED");

    private final UpgradedDatabase upgraded = new UpgradedDatabase("words", "14", before());

    /** A run in each state, of a route of its own; what they refer to does not matter here. */
    private static String[] before() {
        List<String> statements = new ArrayList<>();
        for (String state : STATES) {
            statements.add("insert into run (route_id, trigger, state, route_version, dataset_version,"
                    + " profile_version, object_fingerprint, started_by, started_at, drawn_at, halt, wish, owner, epoch, beat_at)"
                    + " values (" + (statements.size() + 1) + ", 'HAND', '" + state
                    + "', 1, 1, 1, 0, 'somebody', now(), '2026-11-01', "
                    + (state.equals("HALTED") ? "'CIRCUIT'" : "''") + ", "
                    + (state.equals("SENDING") ? "'PAUSE'" : "''") + ", 'x', 1, now())");
        }
        statements.add("insert into record_state (route_id, ordinal, input_fingerprint,"
                + " sent_fingerprint, stance, stance_reason) values (1, 1, 0, 0, 1, 'refused there')");
        statements.add("insert into pace (destination_id, next_at) values (7, '2026-11-02')");
        statements.add("insert into pinned_example (route_id, name, cells, expected, pinned_by, pinned_at)"
                + " values (1, 'Runa', '{}', '{}', 'somebody', now())");
        return statements.toArray(String[]::new);
    }

    @AfterAll
    void drop() {
        upgraded.close();
    }

    private String text(String sql) {
        return upgraded.text(sql);
    }

    @Test
    void everyRunIsInTheStateOfItsNewName() {
        assertThat(text("select string_agg(state, ' ' order by route_id) from run"))
                .isEqualTo(
                        "PREPARING READY AWAITING_APPROVAL SENDING SENT SUSPENDED DISCARDED CANCELLED INTERRUPTED FAILED SKIPPED");
    }

    @Test
    void whyItWasSuspendedAndWhatWasAskedOfItStay() {
        assertThat(text("select suspension from run where state = 'SUSPENDED'")).isEqualTo("CIRCUIT");
        assertThat(text("select request from run where state = 'SENDING'")).isEqualTo("PAUSE");
        assertThat(text("select count(*) from run where prepared_at = '2026-11-01'"))
                .isEqualTo("11");
    }

    @Test
    void whatIsKnownOfRecordsAndDestinationsStays() {
        assertThat(text("select state || ' ' || state_reason from record_state"))
                .isEqualTo("1 refused there");
        assertThat(text("select next_at::date::text from rate_limit")).isEqualTo("2026-11-02");
        assertThat(text("select name || ' ' || added_by from golden_example")).isEqualTo("Runa somebody");
    }

    @Test
    void runsOfOneRouteStillNeverOverlap() {
        assertThatThrownBy(() -> upgraded.run("update run set state = 'SENDING', route_id = 1 where route_id = 4"))
                .rootCause()
                .hasMessageContaining("run_one_at_a_time");
    }

    @Test
    void aStateOfBeforeIsRefused() {
        assertThatThrownBy(() -> upgraded.run("update run set state = 'DRAWN' where route_id = 5"))
                .rootCause()
                .hasMessageContaining("run_state_check");
    }
}

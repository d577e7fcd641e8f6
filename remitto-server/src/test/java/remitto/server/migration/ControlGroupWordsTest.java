package remitto.server.migration;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;

/** Audiences that were saved before control groups were called so are read as ever, drafts among them. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ControlGroupWordsTest {
    private static final String KEPT =
            "{\"sql\": \"\", \"zone\": \"Europe/Oslo\", \"holdOut\": {\"percent\": 10, \"seed\": \"spring\"}}";

    private final UpgradedDatabase upgraded = new UpgradedDatabase(
            "control",
            "19",
            "insert into audience_version (audience_id, number, definition, author, saved_at, note)"
                    + " values (1, 1, '" + KEPT
                    + "', 'somebody', now(), ''), (1, 2, '{\"zone\": \"UTC\"}', 'somebody', now(), '')",
            "insert into quiet_days (most, days) values (3, 7)",
            "insert into draft (user_id, kind, subject, title, based_on, content, saved_at)"
                    + " values (1, 'AUDIENCE', '1', 'Spring', 1, '" + KEPT + "', now()),"
                    + " (1, 'DATASET', '1', 'A column called holdOut', 1, '{\"holdOut\": 1}', now())");

    @AfterAll
    void drop() {
        upgraded.close();
    }

    private String text(String sql) {
        return upgraded.text(sql);
    }

    @Test
    void theControlGroupOfAVersionStays() {
        assertThat(text("select definition -> 'controlGroup' ->> 'seed' from audience_version where number = 1"))
                .isEqualTo("spring");
        assertThat(text("select (definition ? 'holdOut')::text from audience_version where number = 1"))
                .isEqualTo("false");
        assertThat(text("select definition::text from audience_version where number = 2"))
                .isEqualTo("{\"zone\": \"UTC\"}");
    }

    @Test
    void aDraftKeepsTheOrderOfItsNames() {
        assertThat(text("select content from draft where kind = 'AUDIENCE'"))
                .isEqualTo(KEPT.replace("holdOut", "controlGroup"));
        assertThat(text("select content from draft where kind = 'DATASET'")).isEqualTo("{\"holdOut\": 1}");
    }

    @Test
    void theFrequencyCapStays() {
        assertThat(text("select most || ' in ' || days from frequency_cap")).isEqualTo("3 in 7");
    }
}

package remitto.core.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.destination.FieldKind;

class FileLayoutTest {
    private static final Instant BEGAN = Instant.parse("2026-03-28T23:30:05Z");

    private static FileLayout layout(FileContent content, String pattern, String folder, List<String> columns) {
        return new FileLayout(
                "members",
                true,
                content,
                folder,
                new FileName(pattern),
                "Europe/Oslo",
                FileForm.Csv.plain(),
                true,
                "id",
                columns.stream()
                        .map(name -> FileColumn.of(name, FieldKind.TEXT))
                        .toList());
    }

    /** ISO 8601 basic formats; the day is that of the zone named. */
    @ParameterizedTest
    @CsvSource({
        "members-{date}-{time}, Europe/Oslo, 1, .csv, members-20260329-003005.csv",
        "members-{date}-{time}, UTC, 1, .csv, members-20260328-233005.csv",
        "{route}-{run}, UTC, 1, .jsonl.gz, Island-guide--all--7.jsonl.gz",
        "members.csv, UTC, 1, .csv, members.csv",
        "members.csv, UTC, 2, .csv, members-2.csv",
        "members, UTC, 3, .csv.gz, members-3.csv.gz",
    })
    void aNameIsFilledIn(String pattern, String zone, int file, String ending, String expected) {
        assertThat(new FileName(pattern)
                        .of("Island guide (all)", 7, BEGAN, ZoneId.of(zone), file, ending)
                        .replace("(", "-")
                        .replace(")", "-"))
                .isEqualTo(expected);
    }

    @Test
    void aRouteNameNeverLeavesItsFolder() {
        assertThat(new FileName("{route}").of("../../etc/x", 1, BEGAN, ZoneId.of("UTC"), 1, ".csv"))
                .isEqualTo("..-..-etc-x.csv")
                .doesNotContain("/");
    }

    @ParameterizedTest
    @ValueSource(strings = {"", " ", "../x", "a/b", "a\\b", ".hidden", "{when}", "{date", "date}", "a:b", "a\nb"})
    void aNameThatMayNotBeIsRefused(String pattern) {
        assertThatThrownBy(() -> new FileName(pattern)).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void aFileOfChangesNeverReplacesTheOneBefore() {
        FileContent changes = new FileContent.Changes("change", "A", "C", "R");
        assertThatThrownBy(() -> layout(changes, "members", "", List.of("id")))
                .hasMessageContaining("replaces the one before");
        assertThatThrownBy(() -> layout(changes, "members-{date}", "", List.of("id")))
                .hasMessageContaining("replaces the one before");
        assertThat(layout(changes, "members-{run}", "", List.of("id", "mail")).header())
                .containsExactly("change", "id", "mail");
        assertThat(layout(new FileContent.Everybody(), "members", "", List.of("id", "mail"))
                        .header())
                .containsExactly("id", "mail");
    }

    @Test
    void whatDoesNotFitTogetherIsTold() {
        FileContent everybody = new FileContent.Everybody();
        assertThatThrownBy(() -> layout(everybody, "m", "", List.of("mail"))).hasMessageContaining("key column");
        assertThatThrownBy(() -> layout(everybody, "m", "", List.of("id", "id")))
                .hasMessageContaining("two columns id");
        assertThatThrownBy(() -> layout(everybody, "m", "a/../../b", List.of("id")))
                .hasMessageContaining("below");
        assertThatThrownBy(() -> layout(everybody, "m", "/etc", List.of("id"))).hasMessageContaining("below");
        assertThatThrownBy(() -> layout(everybody, "m", "", List.of("id", " mail")))
                .hasMessageContaining("spaces");
        assertThatThrownBy(() -> new FileContent.Changes("change", "x", "y", "x"))
                .hasMessageContaining("of their own");
        assertThatThrownBy(() ->
                        layout(new FileContent.Changes("mail", "A", "C", "R"), "m-{run}", "", List.of("id", "mail")))
                .hasMessageContaining("one of the other columns");
    }

    @Test
    void itsColumnsAreTheFieldsOfAnObjectThatIsWrittenAndNeverRead() {
        var object = layout(new FileContent.Everybody(), "m", "", List.of("id", "mail"))
                .description();
        assertThat(object.abilities().reads()).isFalse();
        assertThat(object.people()).isTrue();
        assertThat(object.field("id").orElseThrow().required()).isTrue();
        assertThat(object.field("id").orElseThrow().unique()).isTrue();
        assertThat(object.field("mail").orElseThrow().required()).isFalse();
    }
}

package remitto.standins.fault;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.json.JsonMapper;

/** What the witness says of calls that should not have been made, and of those that were right. */
class TestimonyTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");

    @TempDir
    private Path folder;

    private Path data;
    private Witness witness;
    private String key = "";

    @BeforeEach
    void open() {
        data = folder.resolve("tool.jsonl");
        witness = witness();
    }

    private Witness witness() {
        return new Witness(Testimony.beside(data), JsonMapper.builder().build());
    }

    private long came(String asked, String... lines) {
        return witness.received(NOW, asked, key, "/batch", List.of(lines));
    }

    private void call(String asked, boolean answered, String line, String told) {
        witness.ended(came(asked, line), 200, answered, List.of(told));
    }

    private Testimony told() {
        return Testimony.of(data);
    }

    @Test
    void aLineThatCameOnceIsNeitherDoubledNorRepeated() {
        call("1-1", true, "key=A", "added");
        call("1-2", true, "key=B", "written");
        assertThat(told().doubled()).isEmpty();
        assertThat(told().repeated()).isEmpty();
        assertThat(told().receipts()).containsEntry("1 key=A", 1).containsEntry("1 key=B", 1);
    }

    @Test
    void aLineThatWasAnsweredAndCameAgainIsDoubledWhateverTheSecondWriteFound() {
        for (String second : List.of("written", "same", "present", "refused")) {
            call("1-1", true, "key=" + second, "added");
            call("1-2", true, "key=" + second, second);
        }
        assertThat(told().doubled()).containsExactly("1 key=written", "1 key=same", "1 key=present", "1 key=refused");
        assertThat(told().repeated()).isEmpty();
    }

    @Test
    void aLineThatTookEffectUnheardAndCameAgainIsRepeated() {
        call("1-1", false, "key=A", "added");
        call("1-1", true, "key=A", "present");
        assertThat(told().doubled()).isEmpty();
        assertThat(told().repeated()).containsExactly("1 key=A");
    }

    @Test
    void aLineThatWasRefusedOrNeverHandledMayComeAgain() {
        call("1-1", true, "key=A", "refused");
        call("1-2", true, "key=A", "written");
        witness.ended(came("1-3", "key=B"), 500, true, List.of());
        call("1-3", true, "key=B", "written");
        witness.ended(came("1-4", "key=C"), 404, false, List.of());
        call("1-4", true, "key=C", "written");
        assertThat(told().doubled()).isEmpty();
        assertThat(told().repeated()).isEmpty();
    }

    @Test
    void twoCallsWithOneLineAtTheSameTimeAreADouble() {
        long first = came("1-1", "key=A");
        long second = came("1-2", "key=A");
        witness.ended(first, 200, false, List.of("added"));
        witness.ended(second, 200, true, List.of("present"));
        assertThat(told().doubled()).containsExactly("1 key=A");
    }

    @Test
    void theNextRunMayWriteTheSameRecord() {
        call("1-1", true, "key=A", "written");
        call("2-1", true, "key=A", "written");
        assertThat(told().doubled()).isEmpty();
        assertThat(told().repeated()).isEmpty();
    }

    @Test
    void aCallThatIsKnownUnderItsKeyIsTheSameCall() {
        key = "1-1";
        call("1-1", false, "add 77", "taken");
        witness.ended(came("1-1", "add 77"), 500, true, List.of());
        call("1-1", true, "add 77", Testimony.KNOWN_KEY);
        assertThat(told().doubled()).isEmpty();
        assertThat(told().repeated()).isEmpty();
        key = "1-2";
        call("1-2", true, "add 77", "taken");
        assertThat(told().doubled()).as("under another key it is another").containsExactly("1 add 77");
    }

    @Test
    void itRemembersAcrossAKillAndTakesWhatTheNextCallFindsAsTheWordForTheLost() throws Exception {
        came("1-1", "key=A", "key=B");
        witness.close();
        Files.writeString(Testimony.beside(data), "{\"ended\":1,\"sta", StandardOpenOption.APPEND);
        assertThat(told().inDoubt()).containsExactlyInAnyOrder("1 key=A", "1 key=B");
        witness = witness();
        long again = came("1-1", "key=A", "key=B");
        assertThat(again).isEqualTo(2);
        witness.ended(again, 200, true, List.of("same", "added"));
        assertThat(told().repeated()).containsExactly("1 key=A");
        assertThat(told().since(1).last()).isEqualTo(2);
    }
}

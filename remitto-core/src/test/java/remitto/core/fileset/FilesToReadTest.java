package remitto.core.fileset;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.dataset.ColumnType;
import remitto.core.landed.LandedColumn;

class FilesToReadTest {
    private static final Instant NOW = Instant.parse("2026-06-01T12:00:00Z");

    private static FileSetDefinition set(String pattern, SeveralFiles several) {
        return new FileSetDefinition(
                pattern,
                new FileFormat.ObjectLines(),
                List.of(new LandedColumn("no", "no", ColumnType.INTEGER, "")),
                "UTC",
                several,
                AfterReading.LEAVE,
                0);
    }

    private static ListedFile file(String path, long secondsAgo) {
        return new ListedFile(path, 100, NOW.minusSeconds(secondsAgo), "");
    }

    private static KnownFile known(ListedFile file, KnownFile.State state, int revision, long seenSecondsAgo) {
        return new KnownFile(file, state, revision, NOW.minusSeconds(seenSecondsAgo));
    }

    private static List<String> steps(SeveralFiles several, List<ListedFile> listed, KnownFile... known) {
        return new FilesToRead(set("*.csv", several), 2, NOW)
                .steps(listed, List.of(known)).stream()
                        .map(step -> step.act() + " " + step.file().path())
                        .toList();
    }

    private static List<String> steps(List<ListedFile> listed, KnownFile... known) {
        return steps(new SeveralFiles.EachAdds(), listed, known);
    }

    @Test
    void whatIsNewIsReadFromTheOldestToTheNewest() {
        assertThat(steps(List.of(file("b.csv", 90), file("c.csv", 300), file("a.csv", 90), file("a.txt", 90))))
                .containsExactly("READ c.csv", "READ a.csv", "READ b.csv");
    }

    @ParameterizedTest
    @CsvSource({"READ,   2, NOTHING", "FAILED, 2, NOTHING", "READ,   1, READ", "FAILED, 1, READ", "SEEN,   0, READ"})
    void whatIsKnownIsReadAgainByAnotherDefinitionOnly(KnownFile.State state, int revision, String act) {
        ListedFile file = file("a.csv", 90);
        assertThat(steps(List.of(file), known(file, state, revision, 5))).containsExactly(act + " a.csv");
    }

    @ParameterizedTest
    @CsvSource({"101, 90, ''", "100, 91, ''", "100, 90, tag"})
    void whatChangedIsReadAgain(long size, long secondsAgo, String tag) {
        ListedFile now = new ListedFile("a.csv", size, NOW.minusSeconds(secondsAgo), tag);
        assertThat(steps(List.of(now), known(file("a.csv", 90), KnownFile.State.READ, 2, 500)))
                .containsExactly("READ a.csv");
    }

    @Test
    void whatIsStillWrittenIsLeftAlone() {
        assertThat(steps(List.of(file("a.csv", 29)))).containsExactly("WAIT a.csv");
        assertThat(steps(List.of(file("a.csv", 30)))).containsExactly("READ a.csv");
        assertThat(steps(List.of(file("a.csv", 2)), known(file("a.csv", 9), KnownFile.State.READ, 2, 500)))
                .containsExactly("WAIT a.csv");
    }

    @Test
    void aPlaceWhoseFilesAreWholeIsNotWaitedFor() {
        assertThat(new FilesToRead(set("*.csv", new SeveralFiles.EachAdds()), 1, NOW, true)
                        .steps(List.of(file("a.csv", 0), file("b.csv", -60)), List.of()))
                .extracting(FilesToRead.Step::act)
                .containsOnly(FilesToRead.Act.READ);
    }

    /** Clocks of other machines may be ahead; two looks tell as well as a time does. */
    @Test
    void aFileFromTheFutureIsReadWhenItStaysAsItIs() {
        ListedFile ahead = file("a.csv", -7_200);
        assertThat(steps(List.of(ahead))).containsExactly("WAIT a.csv");
        assertThat(steps(List.of(ahead), known(ahead, KnownFile.State.SEEN, 0, 29)))
                .containsExactly("WAIT a.csv");
        assertThat(steps(List.of(ahead), known(ahead, KnownFile.State.SEEN, 0, 30)))
                .containsExactly("READ a.csv");
    }

    @ParameterizedTest
    @CsvSource({
        "*,        a.csv.part,     false",
        "*,        a.csv.filepart, false",
        "*,        .a.csv,         false",
        "*,        A.TMP,          false",
        "*.part,   a.part,         true",
        "*,        a.parts,        true"
    })
    void namesOfUnfinishedFilesArePassedOver(String pattern, String path, boolean read) {
        assertThat(new FilesToRead(set(pattern, new SeveralFiles.EachAdds()), 1, NOW)
                        .steps(List.of(file(path, 90)), List.of()))
                .hasSize(read ? 1 : 0);
    }

    @Test
    void onlyTheNewestIsTheWhole() {
        SeveralFiles whole = new SeveralFiles.NewestIsWhole();
        ListedFile may = file("may.csv", 300);
        ListedFile june = file("june.csv", 200);
        assertThat(steps(whole, List.of(may, june))).containsExactly("READ june.csv", "PASS_OVER may.csv");
        assertThat(steps(whole, List.of(may, june), known(june, KnownFile.State.READ, 2, 9)))
                .as("nothing is new")
                .containsExactly("NOTHING june.csv", "PASS_OVER may.csv");
        assertThat(steps(whole, List.of(may), known(june, KnownFile.State.READ, 2, 9)))
                .as("what is older does not come back when the newest goes")
                .containsExactly("PASS_OVER may.csv");
        assertThat(steps(whole, List.of(may, june), known(june, KnownFile.State.FAILED, 2, 9)))
                .as("the newest that can be read")
                .containsExactly("NOTHING june.csv", "READ may.csv");
        assertThat(steps(whole, List.of(may, file("july.csv", 3)), known(may, KnownFile.State.READ, 2, 9)))
                .as("one that is still written takes nobody's place")
                .containsExactly("WAIT july.csv", "NOTHING may.csv");
        assertThat(steps(whole, List.of(may, june), known(june, KnownFile.State.READ, 1, 9)))
                .as("another definition")
                .containsExactly("READ june.csv", "PASS_OVER may.csv");
    }

    /** Common practice, no source: a file that was read is not read again while nothing is new. */
    @Test
    void whateverWasReadNothingIsReadTwice() {
        Random random = new Random(20261201);
        for (int round = 0; round < 200; round++) {
            SeveralFiles several =
                    random.nextBoolean() ? new SeveralFiles.EachAdds() : new SeveralFiles.NewestIsWhole();
            List<ListedFile> listed = new ArrayList<>();
            for (int i = random.nextInt(8); i >= 0; i--) {
                listed.add(file("f" + i + ".csv", 30 + random.nextInt(3) * 60L));
            }
            Collections.shuffle(listed, random);
            List<KnownFile> known = new ArrayList<>();
            new FilesToRead(set("*.csv", several), 2, NOW).steps(listed, known).forEach(step -> {
                assertThat(step.act()).isIn(FilesToRead.Act.READ, FilesToRead.Act.PASS_OVER);
                known.add(known(
                        step.file(),
                        step.act() == FilesToRead.Act.READ ? KnownFile.State.READ : KnownFile.State.SUPERSEDED,
                        2,
                        0));
            });
            assertThat(new FilesToRead(set("*.csv", several), 2, NOW).steps(listed, known))
                    .extracting(FilesToRead.Step::act)
                    .doesNotContain(FilesToRead.Act.READ)
                    .hasSize(listed.size());
        }
    }
}

package remitto.core.cause;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.OptionalLong;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.manifest.LineState;
import remitto.core.manifest.ReachLadder;
import remitto.core.manifest.Verdict;
import remitto.core.run.RunCounts;

/** The register of causes is whole: each has a code of its own, words, and a place on the ladder. */
class CauseTest {
    private static Cause any(CauseKind kind) {
        return kind.isAboutAField() ? Cause.about(kind, "email") : Cause.of(kind);
    }

    @Test
    void everyCodeIsUniqueAndSpelledAlike() {
        assertThat(Stream.of(CauseKind.values()).map(CauseKind::code))
                .doesNotHaveDuplicates()
                .allMatch(code -> code.matches("[a-z]+(-[a-z]+)*"));
    }

    @ParameterizedTest
    @EnumSource(CauseKind.class)
    void everyCauseHasWordsAndIsReadAsItWasSpelled(CauseKind kind) {
        Cause cause = any(kind);
        assertThat(cause.title()).isNotBlank().doesNotContain("{", "}");
        assertThat(cause.title().contains("email")).isEqualTo(kind.isAboutAField());
        assertThat(Cause.read(cause.spelled())).isEqualTo(cause);
        assertThat(cause.is(kind)).isTrue();
        assertThat(cause.isNone()).isFalse();
        assertThat(CauseKind.of(kind.code())).contains(kind);
    }

    @Test
    void twoCausesHaveNoTitleInCommon() {
        assertThat(Stream.of(CauseKind.values()).map(kind -> any(kind).title())).doesNotHaveDuplicates();
    }

    /** What stands in databases of installations that are older than the register. */
    @ParameterizedTest
    @CsvSource({
        "no-key, NO_KEY, ''",
        "doubled-key, DOUBLED_KEY, ''",
        "unusable:mobile, UNUSABLE, mobile",
        "empty:email_sha256, EMPTY, email_sha256",
        "value:home_port, VALUE, home_port",
        "value-held, ONLY_HELD_VALUES, ''",
        "basis, BASIS, ''",
        "erased, ERASED, ''",
        "quiet, QUIET, ''",
        "consent, CONSENT, ''",
        "two-matches, TWO_MATCHES, ''",
        "claimed, CLAIMED, ''",
        "deleted-there, DELETED_THERE, ''",
        "key-differs, KEY_DIFFERS, ''",
        "not-there, NOT_THERE, ''",
        "already-there, ALREADY_THERE, ''",
        "there-before, THERE_BEFORE, ''",
        "left, LEFT, ''",
        "shared, SHARED, ''",
        "joined, JOINED, ''",
        "leaver-unclear, LEAVER_UNCLEAR, ''",
        "refused, REFUSED, ''",
        "outcome-unknown, OUTCOME_UNKNOWN, ''",
        "undo, UNDO, ''",
        "undo-cannot, UNDO_CANNOT, ''",
        "undo-consent, UNDO_CONSENT, ''"
    })
    void whatWasStoredIsRead(String stored, CauseKind kind, String field) {
        Cause cause = Cause.read(stored);
        assertThat(cause.is(kind)).isTrue();
        assertThat(cause.field()).isEqualTo(field);
        assertThat(cause.spelled()).isEqualTo(stored);
    }

    @Test
    void aFieldMayBeCalledAnything() {
        Cause odd = Cause.about(CauseKind.VALUE, "a:b c");
        assertThat(Cause.read(odd.spelled())).isEqualTo(odd);
    }

    @Test
    void noCauseIsBlank() {
        assertThat(Cause.read("")).isEqualTo(Cause.NONE);
        assertThat(Cause.NONE.spelled()).isEmpty();
        assertThat(Cause.NONE.title()).isEmpty();
        assertThat(Cause.NONE.isNone()).isTrue();
        assertThat(Cause.NONE.is(CauseKind.BASIS)).isFalse();
    }

    @ParameterizedTest
    @ValueSource(strings = {"no-such", "no-key:email", "unusable", "unusable:", ":", "NO_KEY", "value: "})
    void whatIsNoCauseIsRefused(String spelled) {
        assertThatThrownBy(() -> Cause.read(spelled)).isInstanceOf(IllegalArgumentException.class);
    }

    @ParameterizedTest
    @CsvSource({
        "NO_KEY, ''",
        "DOUBLED_KEY, TRY_AGAIN",
        "REFUSED, TRY_AGAIN",
        "OUTCOME_UNKNOWN, SAY_WHETHER_IT_ARRIVED",
        "ERASED, ''",
        "UNDO_CANNOT, ''"
    })
    void whatAPersonMayDoAboutIt(CauseKind kind, String remedies) {
        assertThat(kind.remedies())
                .extracting(Enum::name)
                .containsExactlyInAnyOrderElementsOf(remedies.isEmpty() ? List.of() : List.of(remedies.split(" ")));
    }

    private static ReachLadder.Step lostAt(Cause cause, Verdict verdict, String keyField) {
        RunCounts counts =
                verdict == Verdict.HELD ? new RunCounts(1, 0, 0, 0, 0, 0, 1, 0) : new RunCounts(1, 0, 0, 0, 0, 0, 0, 1);
        ReachLadder ladder = ReachLadder.of(
                keyField,
                counts,
                List.of(new ReachLadder.Tally(verdict, cause, LineState.NONE, "so it is", 1)),
                OptionalLong.empty());
        return ladder.rungs().stream()
                .filter(rung -> !rung.losses().isEmpty())
                .findFirst()
                .orElseThrow()
                .step();
    }

    /** Every cause for which somebody in the audience is not reached is a loss at one step. */
    @ParameterizedTest
    @EnumSource(CauseKind.class)
    void everyCauseIsOnTheLadder(CauseKind kind) {
        if (kind.loss() == CauseKind.Loss.ELSEWHERE) {
            RunCounts leaving = new RunCounts(0, 1, 0, 0, 0, 0, 1, 0);
            ReachLadder ladder = ReachLadder.of(
                    "ref",
                    leaving,
                    List.of(new ReachLadder.Tally(Verdict.HELD, any(kind), LineState.NONE, "so it is", 1)),
                    OptionalLong.empty());
            assertThat(ladder.elsewhere()).isEqualTo(1);
            return;
        }
        ReachLadder.Step step =
                switch (kind.loss()) {
                    case NOT_ALLOWED -> ReachLadder.Step.ALLOWED;
                    case NO_ADDRESS -> ReachLadder.Step.HAS_ADDRESS;
                    case SHARED -> ReachLadder.Step.COUNTED_ONCE;
                    case NO_ADDRESS_IF_KEY, NOT_ACCEPTED, ELSEWHERE -> ReachLadder.Step.ACCEPTED;
                };
        assertThat(lostAt(any(kind), Verdict.HELD, "ref")).isEqualTo(step);
        assertThat(lostAt(any(kind), Verdict.LEFT_OUT, "ref")).isEqualTo(step);
    }

    @ParameterizedTest
    @EnumSource(
            value = CauseKind.class,
            names = {"UNUSABLE", "EMPTY"})
    void withoutTheFieldThatPeopleAreMatchedByThereIsNoAddress(CauseKind kind) {
        assertThat(lostAt(Cause.about(kind, "email"), Verdict.HELD, "email")).isEqualTo(ReachLadder.Step.HAS_ADDRESS);
        assertThat(lostAt(Cause.about(kind, "port"), Verdict.HELD, "email")).isEqualTo(ReachLadder.Step.ACCEPTED);
    }
}

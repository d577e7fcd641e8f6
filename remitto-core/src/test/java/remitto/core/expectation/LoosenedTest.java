package remitto.core.expectation;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class LoosenedTest {
    private static Expectation email(Demand demand, Response response) {
        return new Expectation(Optional.of("email"), demand, response);
    }

    private static Expectation rows(long least, long most, int percent) {
        return new Expectation(
                Optional.empty(),
                new Demand.RowCount(
                        Optional.of(least).filter(number -> number > 0),
                        Optional.of(most).filter(number -> number > 0),
                        Optional.of(percent).filter(number -> number > 0)),
                Response.STOP_ROUTES);
    }

    private static Expectation fresh(int hours) {
        return new Expectation(Optional.empty(), new Demand.FreshRows(hours), Response.STOP_ROUTES);
    }

    private static Demand oneOf(String... values) {
        return new Demand.ListedValues(List.of(values));
    }

    static Stream<Arguments> changes() {
        Demand never = new Demand.NeverEmpty();
        return Stream.of(
                Arguments.of(email(never, Response.HOLD_ROWS), email(never, Response.HOLD_ROWS), false),
                Arguments.of(email(never, Response.HOLD_ROWS), email(never, Response.STOP_ROUTES), false),
                Arguments.of(email(never, Response.STOP_ROUTES), email(never, Response.HOLD_ROWS), true),
                Arguments.of(email(never, Response.HOLD_ROWS), email(never, Response.TELL), true),
                Arguments.of(email(never, Response.TELL), email(new Demand.UniqueValues(), Response.TELL), false),
                Arguments.of(
                        email(never, Response.HOLD_ROWS), email(new Demand.UniqueValues(), Response.HOLD_ROWS), true),
                Arguments.of(
                        email(never, Response.HOLD_ROWS),
                        new Expectation(Optional.of("phone"), never, Response.HOLD_ROWS),
                        true),
                Arguments.of(email(oneOf("a", "b"), Response.HOLD_ROWS), email(oneOf("b"), Response.HOLD_ROWS), false),
                Arguments.of(
                        email(oneOf("a", "b"), Response.HOLD_ROWS),
                        email(oneOf("a", "b", "c"), Response.HOLD_ROWS),
                        true),
                Arguments.of(
                        email(new Demand.TextPattern("a+"), Response.HOLD_ROWS),
                        email(new Demand.TextPattern("a*"), Response.HOLD_ROWS),
                        true),
                Arguments.of(fresh(24), fresh(12), false),
                Arguments.of(fresh(24), fresh(25), true),
                Arguments.of(rows(100, 200, 30), rows(100, 200, 30), false),
                Arguments.of(rows(100, 200, 30), rows(120, 180, 20), false),
                Arguments.of(rows(100, 0, 0), rows(100, 200, 0), false),
                Arguments.of(rows(100, 200, 30), rows(99, 200, 30), true),
                Arguments.of(rows(100, 200, 30), rows(100, 201, 30), true),
                Arguments.of(rows(100, 200, 30), rows(100, 200, 31), true),
                Arguments.of(rows(100, 200, 30), rows(100, 200, 0), true),
                Arguments.of(rows(100, 200, 30), rows(0, 200, 30), true));
    }

    @ParameterizedTest
    @MethodSource("changes")
    void whatLetsPassMoreIsToldInWords(Expectation before, Expectation now, boolean looser) {
        assertThat(Loosened.of(List.of(before), List.of(now)))
                .isEqualTo(looser ? List.of(before.sentence()) : List.of());
    }

    @Test
    void whatIsGoneIsLooserUnlessItOnlyTold() {
        Expectation held = email(new Demand.NeverEmpty(), Response.HOLD_ROWS);

        assertThat(Loosened.of(List.of(held, fresh(3)), List.of(fresh(3)))).containsExactly("email is never empty");
        assertThat(Loosened.of(List.of(email(new Demand.NeverEmpty(), Response.TELL)), List.of()))
                .isEmpty();
        assertThat(Loosened.of(List.of(), List.of(held))).isEmpty();
    }
}

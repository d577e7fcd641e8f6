package remitto.core.identity.normalise;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.identity.Intake;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Attribute.Kind;

/** Day and month change places from country to country; a column has one order, and its values mostly show which. */
class DateOrdersTest {
    @Test
    void aNumberAboveTwelveIsADay() {
        DateOrders orders = DateOrders.of(Stream.of(
                "13/02/1990",
                "31.1.1971",
                "02/13/1990",
                " 04-05-2001 ",
                // The same either way, whatever was meant.
                "07/07/1977",
                // Not two numbers before a year, or none that could be a date.
                "1990-02-13",
                "13. februar 1990",
                "45/77/1990",
                "",
                "unknown"));
        assertThat(orders).isEqualTo(new DateOrders(2, 1, 1));
    }

    @ParameterizedTest
    @CsvSource({
        // first can only be the day, second can only be, either; what is shown; in doubt
        "812, 0, 1204, DAY_FIRST, false",
        "0, 812, 1204, MONTH_FIRST, false",
        "1, 0, 0, DAY_FIRST, false",
        // Slips, where the other order is plain.
        "510, 10, 900, DAY_FIRST, false",
        "10, 510, 900, MONTH_FIRST, false",
        // Files of two countries in one table.
        "500, 10, 900, , true",
        "30, 12, 0, , true",
        // First days of months only: nothing shows.
        "0, 0, 40, , true",
        "0, 0, 0, , false",
    })
    void theOrderThatIsShown(long dayFirst, long monthFirst, long either, DateOrder shown, boolean inDoubt) {
        DateOrders orders = new DateOrders(dayFirst, monthFirst, either);
        assertThat(orders.shown()).isEqualTo(Optional.ofNullable(shown));
        assertThat(orders.isInDoubt()).isEqualTo(inDoubt);
    }

    @ParameterizedTest
    @CsvSource({
        "04/05/2001, 20010504, 20010405",
        "4.5.2001, 20010504, 20010405",
        // Only one order makes a date, and that one counts.
        "13/02/1990, 19900213, 19900213",
        "02/13/1990, 19900213, 19900213",
        // Neither is asked where the year comes first, or the month is named; compact forms begin with the year.
        "1990-02-03, 19900203, 19900203",
        "19900203, 19900203, 19900203",
        "3 Feb 1990, 19900203, 19900203",
        // No date in any order stays as its digits.
        "45/77/1990, 45771990, 45771990",
    })
    void datesInEitherOrder(String spelled, String dayFirst, String monthFirst) {
        assertThat(BirthDates.normalise(spelled, DateOrder.DAY_FIRST)).isEqualTo(dayFirst);
        assertThat(BirthDates.normalise(spelled, DateOrder.MONTH_FIRST)).isEqualTo(monthFirst);
    }

    /** Two sources may write them in two orders, and are compared all the same. */
    @Test
    void eachColumnHasItsOwnOrder() {
        List<Attribute> columns =
                List.of(new Attribute("name", Kind.GIVEN_NAME), new Attribute("born", Kind.BIRTH_DATE));
        Intake european = new Intake(columns, Collections.nCopies(2, DateOrder.DAY_FIRST), true);
        Intake american = new Intake(columns, List.of(DateOrder.DAY_FIRST, DateOrder.MONTH_FIRST), true);
        assertThat(european.normalising().normalise(new String[] {"Runa", "04/05/2001"}, "NO"))
                .containsExactly("runa", "20010504");
        assertThat(american.normalising().normalise(new String[] {"Runa", "05/04/2001"}, "US"))
                .containsExactly("runa", "20010504");
    }
}

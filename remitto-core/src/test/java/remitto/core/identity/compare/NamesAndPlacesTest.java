package remitto.core.identity.compare;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class NamesAndPlacesTest {
    /** Slips as in the FEBRL files, such as chelsea and chlsea. */
    @ParameterizedTest
    @CsvSource({
        "chelsea, chlsea, true",
        "chelsea, chelsae, true",
        "lee, lea, true",
        "li, lo, false",
        "bo, bob, false",
        "lauren, laufn, false"
    })
    void aSlipIsToldInNamesThatAreLongEnough(String one, String other, boolean holds) {
        assertThat(new NameSlip(3).holds(one, other)).isEqualTo(holds);
        assertThat(new NameSlip(3).holds(other, one)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "anna, anna maria, true",
        "anna maria, anna karin, true",
        "anna, annamaria, false",
        "a maria, a karin, false",
        "a, a, false"
    })
    void givenNamesThatBeginWithTheSameName(String one, String other, boolean holds) {
        assertThat(new FirstWord().holds(one, other)).isEqualTo(holds);
        assertThat(new FirstWord().holds(other, one)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "8 stanley street, 8 stanleystreet, true",
        "strandgata 12, strandgata 14, false",
        "strandgata 12, strandgaten 12, true",
        "laseron place, 17 laseron place, true",
        "12 a havneveien, havneveien 12 a, true",
        "12 havneveien, 12 kirkegata, false"
    })
    void neighboursAreNotAlike(String one, String other, boolean holds) {
        assertThat(new SameNumberAlike(0.85).holds(one, other)).isEqualTo(holds);
        assertThat(new SameNumberAlike(0.85).holds(other, one)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({"19800304, 19800403, true", "19800304, 19810403, false", "19800304, 1980040, false"})
    void dayAndMonthSwapped(String one, String other, boolean holds) {
        assertThat(new DayAndMonthSwapped().holds(one, other)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "19800304, 19800317, true",
        "19800304, 19801104, true",
        "19800304, 19650304, true",
        "19800304, 19650317, false",
        "19800304, 19800304, false",
        "1980, 19800304, false"
    })
    void twoOfYearMonthAndDay(String one, String other, boolean holds) {
        assertThat(new TwoDateParts().holds(one, other)).isEqualTo(holds);
    }

    /** A date that differs in the usual levels is less than one of which a part does. */
    @Test
    void eachSaysWhatItMeans() {
        assertThat(new NameSlip(3).words()).isEqualTo("one typo apart");
        assertThat(new FirstWord().words()).isEqualTo("the same in the first name");
        assertThat(new SameNumberAlike(0.85).words()).isEqualTo("similar, with the same number");
        assertThat(new DayAndMonthSwapped().words()).isEqualTo("the same with day and month swapped");
        assertThat(new TwoDateParts().words()).isEqualTo("the same in two of year, month and day");
    }
}

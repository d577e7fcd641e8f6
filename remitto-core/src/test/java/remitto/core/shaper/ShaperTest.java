package remitto.core.shaper;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.i18n.phonenumbers.NumberParseException;
import com.google.i18n.phonenumbers.PhoneNumberUtil;
import com.google.i18n.phonenumbers.PhoneNumberUtil.PhoneNumberFormat;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Stream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import remitto.core.TestRows;
import remitto.core.value.Value;

class ShaperTest {

    private static Shaped shape(PureShaper shaper, Value value) {
        return shaper.apply(value, TestRows.empty());
    }

    @Test
    void trimTakesEverySortOfSpace() {
        assertThat(shape(new Trim(), Value.text("\u00a0 \t Ingrid Marie \u2003\n")))
                .isEqualTo(new Shaped.Usable(Value.text("Ingrid Marie")));
    }

    @Test
    void lowerCaseDoesNotDependOnTheMachinesLanguage() {
        // Under Turkish rules I would become a dotless i; SpecialCasing.txt of the Unicode Character Database.
        Locale before = Locale.getDefault();
        Locale.setDefault(Locale.forLanguageTag("tr-TR"));
        try {
            assertThat("I".toLowerCase()).as("this machine speaks Turkish now").isEqualTo("\u0131");
            assertThat(shape(new LowerCase(), Value.text("INGRID@SOL.EXAMPLE")))
                    .isEqualTo(new Shaped.Usable(Value.text("ingrid@sol.example")));
            assertThat(shape(new NormaliseEmail(false), Value.text("INGRID@SOL.EXAMPLE")))
                    .isEqualTo(new Shaped.Usable(Value.text("ingrid@sol.example")));
        } finally {
            Locale.setDefault(before);
        }
    }

    /** National and international notation of ITU-T E.123 (02/2001): each in E.164 (11/2010) form. */
    @ParameterizedTest
    @CsvSource({
        "(0607) 123 4567, US, unusable",
        "+22 607 123 4567, NO, unusable",
        "912 44 870, NO, +4791244870",
        "+47 912 44 870, SE, +4791244870",
        "0047 91244870, NO, +4791244870",
        "070-123 45 67, SE, +46701234567",
        "(030) 123456, DE, +4930123456",
        "ring the harbour office, NO, unusable",
        "+4791, NO, unusable"
    })
    void phoneNumbersInCommonSpellings(String spelled, String country, String expected) {
        Shaped shaped = shape(new E164(country, ""), Value.text(spelled));
        if (expected.equals("unusable")) {
            assertThat(shaped).isInstanceOf(Shaped.Unusable.class);
            assertThat(((Shaped.Unusable) shaped).reason()).contains(spelled);
        } else {
            assertThat(shaped).isEqualTo(new Shaped.Usable(Value.text(expected)));
        }
    }

    static Stream<String> regions() {
        return PhoneNumberUtil.getInstance().getSupportedRegions().stream().sorted();
    }

    /** The reference library's own example number of every region, national spelling in, E.164 out. */
    @ParameterizedTest
    @MethodSource("regions")
    void everyRegionsExampleNumber(String region) {
        PhoneNumberUtil phones = PhoneNumberUtil.getInstance();
        var example = phones.getExampleNumber(region);
        Shaped shaped = shape(new E164(region, ""), Value.text(phones.format(example, PhoneNumberFormat.NATIONAL)));
        assertThat(shaped).isEqualTo(new Shaped.Usable(Value.text(phones.format(example, PhoneNumberFormat.E164))));
    }

    /** A number spelled as E.164 already takes a shorter way, which must lead to the same place. */
    @Property(tries = 20_000)
    void whatIsSpelledAsE164IsTakenAsTheParserTakesIt(
            @ForAll("callingCodes") int code,
            @ForAll @LongRange(min = 1_000_000, max = 99_999_999_999L) long national) {
        PhoneNumberUtil phones = PhoneNumberUtil.getInstance();
        String spelled = "+" + code + national;
        String expected = "unusable";
        try {
            var number = phones.parse(spelled, "NO");
            if (phones.isValidNumber(number)) {
                expected = phones.format(number, PhoneNumberFormat.E164);
            }
        } catch (NumberParseException e) {
            // stays unusable
        }
        Shaped shaped = shape(new E164("NO", ""), Value.text(spelled));
        assertThat(shaped instanceof Shaped.Usable usable ? usable.value().display() : "unusable")
                .as(spelled)
                .isEqualTo(expected);
    }

    @Provide
    Arbitrary<Integer> callingCodes() {
        return Arbitraries.of(PhoneNumberUtil.getInstance().getSupportedCallingCodes());
    }

    @Test
    void theCountryCanComeFromAnotherColumn() {
        var columns = TestRows.columns("id:TEXT:KEY", "country:TEXT");
        PureShaper phone = new E164("NO", "country");
        assertThat(phone.apply(Value.text("070-123 45 67"), TestRows.row(columns, Map.of("country", "se"))))
                .isEqualTo(new Shaped.Usable(Value.text("+46701234567")));
        assertThat(phone.apply(Value.text("91244870"), TestRows.row(columns, Map.of())))
                .isEqualTo(new Shaped.Usable(Value.text("+4791244870")));
        assertThat(phone.columns()).containsExactly("country");
    }

    @ParameterizedTest
    @CsvSource({
        "2026-11-24, '', 2026-11-24",
        "24.11.2026, dd.MM.uuuu, 2026-11-24",
        "29.02.2024, dd.MM.uuuu, 2024-02-29",
        "29.02.2026, dd.MM.uuuu, unusable",
        "24/11/2026, dd.MM.uuuu, unusable",
        "tomorrow, '', unusable"
    })
    void datesAsTheyAreSpelled(String spelled, String pattern, String expected) {
        Shaped shaped = shape(new ToDate(pattern, "Europe/Oslo"), Value.text(spelled));
        if (expected.equals("unusable")) {
            assertThat(shaped).isInstanceOf(Shaped.Unusable.class);
        } else {
            assertThat(shaped).isEqualTo(new Shaped.Usable(new Value.Day(LocalDate.parse(expected))));
        }
    }

    @Test
    void aMomentsDateDependsOnTheZone() {
        Value moment = new Value.Moment(Instant.parse("2026-11-24T23:30:00Z"));
        assertThat(shape(new ToDate("", "Europe/Oslo"), moment))
                .isEqualTo(new Shaped.Usable(new Value.Day(LocalDate.of(2026, 11, 25))));
        assertThat(shape(new ToDate("", "UTC"), moment))
                .isEqualTo(new Shaped.Usable(new Value.Day(LocalDate.of(2026, 11, 24))));
    }

    @Test
    void emptyPassesUntouched() {
        for (PureShaper shaper :
                new PureShaper[] {new Trim(), new LowerCase(), new E164("NO", ""), new ToDate("", "UTC")}) {
            assertThat(shape(shaper, Value.EMPTY)).isEqualTo(new Shaped.Usable(Value.EMPTY));
            assertThat(shape(shaper, Value.MISSING)).isEqualTo(new Shaped.Usable(Value.MISSING));
        }
    }
}

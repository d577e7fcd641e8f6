package remitto.core.shaper;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.i18n.phonenumbers.PhoneNumberUtil;
import com.google.i18n.phonenumbers.PhoneNumberUtil.PhoneNumberFormat;
import com.google.i18n.phonenumbers.PhoneNumberUtil.PhoneNumberType;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** Source: the example numbers that libphonenumber carries for each country's plan. */
class PhoneTypeTest {
    static Stream<Arguments> mobiles() {
        return examples(PhoneNumberType.MOBILE);
    }

    static Stream<Arguments> landlines() {
        return examples(PhoneNumberType.FIXED_LINE);
    }

    private static Stream<Arguments> examples(PhoneNumberType type) {
        PhoneNumberUtil phones = PhoneNumberUtil.getInstance();
        return Stream.of("NO", "SE", "DK", "DE", "FR", "GB", "PL", "US", "CA")
                .map(country -> Arguments.of(
                        country,
                        phones.format(phones.getExampleNumberForType(country, type), PhoneNumberFormat.E164)));
    }

    @ParameterizedTest
    @MethodSource("mobiles")
    void mobileNumbersServeAsMobile(String country, String number) {
        assertThat(PhoneType.of(number).serves(PhoneType.MOBILE)).isTrue();
        assertThat(PhoneType.of(number).serves(PhoneType.FIXED_LINE))
                .as("the plan of North America does not tell them apart")
                .isEqualTo(country.equals("US") || country.equals("CA"));
    }

    @ParameterizedTest
    @MethodSource("landlines")
    void landlinesServeAsLandline(String country, String number) {
        assertThat(PhoneType.of(number).serves(PhoneType.FIXED_LINE)).isTrue();
        assertThat(PhoneType.of(number).serves(PhoneType.MOBILE))
                .isEqualTo(country.equals("US") || country.equals("CA"));
    }

    @ParameterizedTest
    @CsvSource({"+80012345678", "no number", "''"})
    void whatIsNeitherServesAsNeither(String number) {
        assertThat(PhoneType.of(number)).isEqualTo(PhoneType.OTHER);
        assertThat(PhoneType.of(number).serves(PhoneType.MOBILE)).isFalse();
    }
}

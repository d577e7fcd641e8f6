package remitto.core.shaper;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.i18n.phonenumbers.PhoneNumberUtil;
import com.google.i18n.phonenumbers.PhoneNumberUtil.PhoneNumberFormat;
import com.google.i18n.phonenumbers.PhoneNumberUtil.PhoneNumberType;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** Source: the example numbers that libphonenumber carries for each country's plan. */
class PhoneTypeTest {
    /** By its data, where one range of numbers is given out for both. */
    private static final Set<String> NOT_TOLD_APART = Set.of("US", "CA");

    static Stream<Arguments> mobiles() {
        return examples(PhoneNumberType.MOBILE);
    }

    static Stream<Arguments> landlines() {
        return examples(PhoneNumberType.FIXED_LINE);
    }

    private static Stream<Arguments> examples(PhoneNumberType type) {
        PhoneNumberUtil phones = PhoneNumberUtil.getInstance();
        return Stream.of("NO", "SE", "DE", "FR", "GB", "PL", "US", "CA")
                .map(country -> Arguments.of(
                        country, phones.format(phones.getExampleNumberForType(country, type), PhoneNumberFormat.E164)));
    }

    @ParameterizedTest
    @MethodSource("mobiles")
    void mobileNumbersServeAsMobile(String country, String number) {
        assertThat(PhoneType.of(number).serves(PhoneType.MOBILE)).isTrue();
        assertThat(PhoneType.of(number).serves(PhoneType.FIXED_LINE))
                .as("some plans do not tell them apart")
                .isEqualTo(NOT_TOLD_APART.contains(country));
    }

    @ParameterizedTest
    @MethodSource("landlines")
    void landlinesServeAsLandline(String country, String number) {
        assertThat(PhoneType.of(number).serves(PhoneType.FIXED_LINE)).isTrue();
        assertThat(PhoneType.of(number).serves(PhoneType.MOBILE)).isEqualTo(NOT_TOLD_APART.contains(country));
    }

    @ParameterizedTest
    @CsvSource({"+80012345678", "no number", "''"})
    void whatIsNeitherServesAsNeither(String number) {
        assertThat(PhoneType.of(number)).isEqualTo(PhoneType.OTHER);
        assertThat(PhoneType.of(number).serves(PhoneType.MOBILE)).isFalse();
    }
}

package remitto.core.shaper;

import com.google.i18n.phonenumbers.PhoneNumberUtil;
import com.google.i18n.phonenumbers.Phonenumber.PhoneNumber;
import java.util.Optional;
import java.util.Set;

/** Phone numbers that are spelled as E.164 already, which need no parsing but for their country code. */
final class SpelledOut {
    private static final int SHORTEST = 8;
    private static final int LONGEST = 16;
    private static final int LONGEST_CODE = 3;
    private static final Set<Integer> CODES =
            Set.copyOf(PhoneNumberUtil.getInstance().getSupportedCallingCodes());

    private SpelledOut() {}

    /** The number if it is spelled so and is one that is given out; empty leaves it to the full parser. */
    static Optional<String> international(String text) {
        if (text.length() < SHORTEST || text.length() > LONGEST || text.charAt(0) != '+') {
            return Optional.empty();
        }
        for (int i = 1; i < text.length(); i++) {
            if (text.charAt(i) < '0' || text.charAt(i) > '9') {
                return Optional.empty();
            }
        }
        int code = 0;
        for (int i = 1; i <= LONGEST_CODE; i++) {
            code = code * 10 + text.charAt(i) - '0';
            if (CODES.contains(code)) {
                return given(text, code, i + 1);
            }
        }
        return Optional.empty();
    }

    private static Optional<String> given(String text, int code, int nationalFrom) {
        // A zero first is kept by some countries and dropped by others; that is the parser's affair.
        if (text.charAt(nationalFrom) == '0') {
            return Optional.empty();
        }
        PhoneNumber number = new PhoneNumber()
                .setCountryCode(code)
                .setNationalNumber(Long.parseLong(text, nationalFrom, text.length(), 10));
        return PhoneNumberUtil.getInstance().isValidNumber(number) ? Optional.of(text) : Optional.empty();
    }
}

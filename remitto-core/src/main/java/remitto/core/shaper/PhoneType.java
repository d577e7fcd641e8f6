package remitto.core.shaper;

import com.google.i18n.phonenumbers.NumberParseException;
import com.google.i18n.phonenumbers.PhoneNumberUtil;
import com.google.i18n.phonenumbers.PhoneNumberUtil.PhoneNumberType;

/** What a phone number is, by the numbering plan of its country as libphonenumber knows it. */
public enum PhoneType {
    MOBILE("mobile"),
    FIXED_LINE("landline"),
    /** A country whose plan does not tell the two apart, such as the United States. */
    EITHER("mobile or landline"),
    /** Neither, such as a toll-free number, or no number at all. */
    OTHER("other");

    private final String words;

    PhoneType(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    /** @param e164 a number as E.164 (ITU-T) */
    public static PhoneType of(String e164) {
        PhoneNumberUtil phones = PhoneNumberUtil.getInstance();
        try {
            PhoneNumberType type = phones.getNumberType(phones.parse(e164, "ZZ"));
            return switch (type) {
                case MOBILE -> MOBILE;
                case FIXED_LINE -> FIXED_LINE;
                case FIXED_LINE_OR_MOBILE -> EITHER;
                default -> OTHER;
            };
        } catch (NumberParseException e) {
            return OTHER;
        }
    }

    /** Whether a number of this type serves where the other is asked for. */
    public boolean serves(PhoneType wanted) {
        return this == wanted || (this == EITHER && wanted != OTHER);
    }
}

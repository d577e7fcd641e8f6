package remitto.core.consent;

import com.google.i18n.phonenumbers.PhoneNumberUtil;
import java.util.LinkedHashSet;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.apache.commons.codec.digest.DigestUtils;
import remitto.core.shaper.E164;
import remitto.core.shaper.NormaliseEmail;
import remitto.core.shaper.Shaped;

/**
 * An address without the address: SHA-256 (FIPS 180-4) of its normalised form in UTF-8, as lower-case hexadecimal. E-mail is normalised by
 * {@link NormaliseEmail} and phone numbers are E.164, so that every spelling of one address comes to one hash.
 */
public final class AddressHash {
    private static final Pattern PHONE_LIKE = Pattern.compile("[\\d\\p{Zs}()./-]{4,30}");
    private static final Pattern HASH = Pattern.compile("[0-9a-fA-F]{64}");

    private AddressHash() {}

    /** Of an address that is normalised already. */
    public static String ofNormalised(String address) {
        return DigestUtils.sha256Hex(address);
    }

    /**
     * Of an address as somebody spelled it, or of a hash itself.
     *
     * @param country ISO 3166-1 alpha-2 that a national phone number belongs to
     * @return empty if it is neither an e-mail address, nor a phone number, nor a hash
     */
    public static Optional<String> of(String spelled, String country) {
        String text = spelled.strip();
        if (HASH.matcher(text).matches()) {
            return Optional.of(text.toLowerCase(Locale.ROOT));
        }
        Shaped shaped = text.contains("@") ? NormaliseEmail.shape(text, false) : E164.shape(text, country);
        return shaped instanceof Shaped.Usable usable && !usable.value().isEmpty()
                ? Optional.of(ofNormalised(usable.value().display()))
                : Optional.empty();
    }

    /**
     * Everything that an address may mean, as hashes. That is one, but for a phone number that is spelled without its country, where none
     * is known: it may be a number of every country whose numbering plan has it.
     *
     * @param country ISO 3166-1 alpha-2; blank where it is not known
     * @return none if it is neither an e-mail address, nor a phone number, nor a hash
     */
    public static Set<String> meanings(String spelled, String country) {
        Optional<String> one = of(spelled, country);
        if (one.isPresent() || !country.isBlank()) {
            return one.map(Set::of).orElse(Set.of());
        }
        Set<String> all = new LinkedHashSet<>();
        String text = spelled.strip();
        if (!text.contains("@") && PHONE_LIKE.matcher(text).matches()) {
            for (String region : PhoneNumberUtil.getInstance().getSupportedRegions()) {
                of(text, region).ifPresent(all::add);
            }
        }
        return all;
    }

    /** Everything that some texts may mean; those that are no addresses are passed over. */
    public static Set<String> ofAll(Iterable<String> spelled, String country) {
        Set<String> hashes = new LinkedHashSet<>();
        spelled.forEach(text -> hashes.addAll(meanings(text, country)));
        return hashes;
    }
}

package remitto.core.identity.normalise;

import java.net.IDN;
import java.util.Locale;

/** The domain of a site's or an e-mail address, in ASCII (RFC 5891 through {@link IDN}). */
final class Domains {
    private Domains() {}

    /** Blank when there is none. */
    static String normalise(String spelled) {
        String host = spelled.strip().toLowerCase(Locale.ROOT).replaceFirst("^[a-z]+://", "");
        host = host.substring(host.lastIndexOf('@') + 1);
        host = host.replaceFirst("[/:?#].*$", "").replaceFirst("^www\\.", "").replaceFirst("\\.$", "");
        try {
            return host.contains(".") ? IDN.toASCII(host) : "";
        } catch (IllegalArgumentException e) {
            return "";
        }
    }
}

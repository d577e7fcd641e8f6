package remitto.core.shaper;

import com.ibm.icu.text.IDNA;
import java.util.Locale;
import java.util.regex.Pattern;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/**
 * An e-mail address as one compares it: no space around it, nothing but the address out of "Name &lt;address&gt;", NFC,
 * the domain in lower case and, where it is international, in its ASCII form (UTS 46), the part before the at sign in
 * lower case too, since no large mail system tells the cases apart (RFC 5321, 2.4 would let one).
 *
 * @param withoutTag what follows a plus sign before the at sign is dropped; only where the receiver does the same
 */
public record NormaliseEmail(boolean withoutTag) implements PureShaper {
    /** Of RFC 5321, as far as addresses are met in practice; non-ASCII letters by RFC 6531. */
    private static final Pattern LOCAL = Pattern.compile("[^\\s@\"(),:;<>\\[\\]\\\\]{1,64}");

    private static final Pattern DOMAIN =
            Pattern.compile("(?=.{1,253}$)[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?(\\.[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?)+");
    private static final IDNA UTS46 = IDNA.getUTS46Instance(IDNA.NONTRANSITIONAL_TO_ASCII);

    @Override
    public String title() {
        return withoutTag ? "Normalise e-mail, without the tag" : "Normalise e-mail";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return value.isEmpty() ? new Shaped.Usable(value) : shape(value.display(), withoutTag);
    }

    /** @param withoutTag what follows a plus sign before the at sign is dropped */
    public static Shaped shape(String spelled, boolean withoutTag) {
        String text = Trim.strip(spelled);
        int open = text.lastIndexOf('<');
        if (open >= 0 && text.endsWith(">")) {
            text = Trim.strip(text.substring(open + 1, text.length() - 1));
        }
        if (text.toLowerCase(Locale.ROOT).startsWith("mailto:")) {
            text = text.substring("mailto:".length());
        }
        int at = text.lastIndexOf('@');
        if (at < 1) {
            return no(spelled);
        }
        String local = java.text.Normalizer.normalize(text.substring(0, at), java.text.Normalizer.Form.NFC)
                .toLowerCase(Locale.ROOT);
        int plus = local.indexOf('+');
        if (withoutTag && plus > 0) {
            local = local.substring(0, plus);
        }
        StringBuilder domain = new StringBuilder();
        IDNA.Info info = new IDNA.Info();
        UTS46.nameToASCII(text.substring(at + 1), domain, info);
        boolean dots = local.startsWith(".") || local.endsWith(".") || local.contains("..");
        if (info.hasErrors()
                || dots
                || !LOCAL.matcher(local).matches()
                || !DOMAIN.matcher(domain).matches()) {
            return no(spelled);
        }
        return new Shaped.Usable(new Value.Text(local + "@" + domain));
    }

    private static Shaped no(String spelled) {
        return new Shaped.Unusable("\"" + spelled + "\" is not an e-mail address");
    }
}

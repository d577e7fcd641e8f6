package remitto.server.masking;

import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.HexFormat;
import java.util.List;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/**
 * Says of a value what it is without saying it: {@code e-mail …le #3fa0}. The last characters are shown of values that are long
 * enough to keep the rest; equal values have equal marks, made by a keyed hash (HMAC-SHA-256, RFC 2104) that nobody outside can
 * make.
 */
public final class Masker {
    private static final int SHOWN = 2;
    private static final int LONG_ENOUGH = 6;
    private static final int MARK_BYTES = 2;

    private record Kind(String name, Pattern pattern) {}

    private static final List<Kind> KINDS = List.of(
            new Kind("e-mail", Pattern.compile("[^\\s@]+@[^\\s@]+")),
            new Kind("date", Pattern.compile("\\d{4}-\\d{2}-\\d{2}([T ].{0,40})?")),
            new Kind("number", Pattern.compile("-?\\d{1,6}([.,]\\d{1,20})?|-?\\d{1,20}[.]\\d{1,20}")),
            new Kind("phone", Pattern.compile("\\+?[\\d ()/.-]{7,24}")));

    private static final Pattern EMAIL = Pattern.compile("[^\\s@\"'<>(),;]{1,64}@[^\\s@\"'<>(),;]{1,190}");
    /** A date is no phone number. */
    private static final Pattern QUOTED = Pattern.compile("\"([^\"]{1,2000})\"|" + EMAIL.pattern()
            + "|(?<![\\d.-])(?!\\d{4}-\\d{2}-\\d{2}(?!\\d))\\+?\\d[\\d /-]{5,24}\\d");

    private final byte[] key;

    public Masker(byte[] key) {
        this.key = key.clone();
    }

    /** A blank text stays as it is: that there is no value is no value. */
    public String mask(String value) {
        if (value.isBlank()) {
            return value;
        }
        String end = value.codePointCount(0, value.length()) < LONG_ENOUGH
                ? "…"
                : "…" + value.substring(value.offsetByCodePoints(value.length(), -SHOWN));
        return kind(value) + " " + end + " #" + mark(value);
    }

    /** Masks what a sentence quotes, and addresses and numbers in it. */
    String maskIn(String text) {
        return QUOTED.matcher(text).replaceAll(found -> Matcher.quoteReplacement(maskFound(found)));
    }

    private String maskFound(MatchResult found) {
        return found.group(1) == null ? mask(found.group()) : "\"" + mask(found.group(1)) + "\"";
    }

    /** Masks e-mail addresses in a key. */
    String maskKey(String key) {
        return EMAIL.matcher(key).replaceAll(found -> Matcher.quoteReplacement(mask(found.group())));
    }

    private static String kind(String value) {
        String start = value.length() > 200 ? value.substring(0, 200) : value;
        return KINDS.stream()
                .filter(kind -> kind.pattern().matcher(start).matches())
                .map(Kind::name)
                .findFirst()
                .orElse("text");
    }

    private String mark(String value) {
        try {
            Mac mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec(key, "HmacSHA256"));
            return HexFormat.of().formatHex(mac.doFinal(value.getBytes(StandardCharsets.UTF_8)), 0, MARK_BYTES);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("HMAC-SHA-256 is part of every Java runtime", e);
        }
    }
}

package remitto.connect.rowfile;

import com.ibm.icu.text.CharsetDetector;
import com.ibm.icu.text.CharsetMatch;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CoderResult;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The encoding of a text: told by a byte order mark, else UTF-8 where the bytes are valid as such (RFC 3629), else what ICU's detector
 * thinks most likely by the frequencies of letters.
 *
 * @param charset name in the IANA registry of character sets
 * @param evidence a sentence
 */
record EncodingGuess(String charset, String evidence) {
    private static final Pattern WORD = Pattern.compile("\\p{L}*[^\\x00-\\x7F]\\p{L}*");

    static EncodingGuess of(byte[] sample, boolean whole) {
        if (startsWith(sample, 0xEF, 0xBB, 0xBF)) {
            return new EncodingGuess("UTF-8", "The file begins with the byte order mark of UTF-8.");
        }
        if (startsWith(sample, 0xFF, 0xFE) || startsWith(sample, 0xFE, 0xFF)) {
            return new EncodingGuess("UTF-16", "The file begins with the byte order mark of UTF-16.");
        }
        int wrong = firstNotUtf8(sample, whole);
        if (wrong < 0) {
            return new EncodingGuess("UTF-8", utf8(sample));
        }
        for (CharsetMatch match : new CharsetDetector().setText(sample).detectAll()) {
            String name = match.getName().equals("ISO-8859-1") ? "windows-1252" : match.getName();
            if (Charset.isSupported(name) && !name.equals("UTF-8")) {
                return new EncodingGuess(
                        name,
                        "Byte " + (wrong + 1) + " is not UTF-8. " + name + " is most likely (" + match.getConfidence()
                                + " of 100)" + example(sample, Charset.forName(name)));
            }
        }
        return new EncodingGuess(
                "windows-1252", "Byte " + (wrong + 1) + " is not UTF-8, and no encoding is likely. Choose one.");
    }

    private static boolean startsWith(byte[] sample, int... bytes) {
        if (sample.length < bytes.length) {
            return false;
        }
        for (int i = 0; i < bytes.length; i++) {
            if ((sample[i] & 0xFF) != bytes[i]) {
                return false;
            }
        }
        return true;
    }

    private static String utf8(byte[] sample) {
        for (byte one : sample) {
            if (one < 0) {
                return "All bytes are valid UTF-8" + example(sample, StandardCharsets.UTF_8);
            }
        }
        return "All bytes are ASCII, which UTF-8 reads the same.";
    }

    /** A word by which a person can tell whether it is right. */
    private static String example(byte[] sample, Charset charset) {
        Matcher word = WORD.matcher(new String(sample, 0, Math.min(sample.length, 200_000), charset));
        return word.find() ? ", for example \"" + word.group() + "\"." : ".";
    }

    /** @return -1 if there is none; the last character of a sample may be cut */
    private static int firstNotUtf8(byte[] sample, boolean whole) {
        ByteBuffer in = ByteBuffer.wrap(sample);
        CharBuffer out = CharBuffer.allocate(8_192);
        var decoder = StandardCharsets.UTF_8
                .newDecoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT);
        while (true) {
            CoderResult result = decoder.decode(in, out, whole);
            if (result.isError()) {
                return in.position();
            }
            if (result.isUnderflow()) {
                return -1;
            }
            out.clear();
        }
    }
}

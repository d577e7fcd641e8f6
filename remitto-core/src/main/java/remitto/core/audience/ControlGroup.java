package remitto.core.audience;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import org.apache.commons.codec.digest.DigestUtils;

/**
 * A share of an audience that is kept out of it, to compare with those who are reached. Who that is depends on the person
 * and the seed alone, so that it is the same whenever it is drawn.
 *
 * @param percent 0 to 50, with at most two decimals
 */
public record ControlGroup(BigDecimal percent, String seed) {
    private static final int PARTS = 10_000;

    public ControlGroup {
        if (percent.signum() < 0 || percent.compareTo(BigDecimal.valueOf(50)) > 0 || percent.scale() > 2) {
            throw new AudienceFault(
                    "A control group is 0 to 50 per cent, with at most two decimals, not " + percent + ".");
        }
    }

    public static ControlGroup none() {
        return new ControlGroup(BigDecimal.ZERO, "");
    }

    /** Of ten thousand people, how many are expected to be kept out. */
    public int share() {
        return percent.movePointRight(2).intValueExact();
    }

    /** MD5 (RFC 1321) spreads people evenly; it protects nothing here. */
    public boolean keepsOut(long person) {
        byte[] digest = DigestUtils.md5((seed + ":" + person).getBytes(StandardCharsets.UTF_8));
        long first = (digest[0] & 0xFFL) << 24 | (digest[1] & 0xFF) << 16 | (digest[2] & 0xFF) << 8 | digest[3] & 0xFF;
        return first % PARTS < share();
    }
}

package remitto.standins.page;

import java.time.Instant;
import java.time.temporal.ChronoUnit;

/** Text for the pages of stand-ins. */
public final class Html {
    private Html() {}

    public static String escape(String text) {
        return text.replace("&", "&amp;")
                .replace("<", "&lt;")
                .replace(">", "&gt;")
                .replace("\"", "&quot;")
                .replace("'", "&#39;");
    }

    /** In UTC, to the second. */
    public static String time(Instant at) {
        return at.truncatedTo(ChronoUnit.SECONDS).toString().replace('T', ' ').replace("Z", " UTC");
    }
}

package remitto.connect.profile;

import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Optional;

/** When a tool asks to be called again (RFC 9110, 10.2.3): in so many seconds, or from a date on. Nobody is waited for longer than a bound. */
final class RetryAfter {
    private static final Duration LONGEST = Duration.ofMinutes(15);

    private RetryAfter() {}

    /** @return how long to wait from now; empty where the text is neither */
    static Optional<Duration> read(String text, Instant now) {
        String stripped = text.strip();
        if (stripped.matches("\\d{1,18}")) {
            return Optional.of(bounded(Duration.ofSeconds(Long.parseLong(stripped))));
        }
        try {
            Instant from = Instant.from(DateTimeFormatter.RFC_1123_DATE_TIME
                    .withLocale(Locale.ENGLISH)
                    .parse(stripped));
            return Optional.of(bounded(Duration.between(now, from)));
        } catch (DateTimeException e) {
            return Optional.empty();
        }
    }

    private static Duration bounded(Duration wait) {
        if (wait.isNegative()) {
            return Duration.ZERO;
        }
        return wait.compareTo(LONGEST) > 0 ? LONGEST : wait;
    }
}

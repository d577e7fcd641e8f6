package remitto.core.fieldrule;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Optional;

/**
 * What puts the writing of a field off.
 *
 * @param atMostEveryHours hours between two writes of the field; 0 for as often as it changes
 * @param window time of day in which it is written
 * @param notBefore first day it is written on
 * @param notAfter last day it is written on
 * @param zone zone (tz database) of days and times of day
 * @param onlyWithColumn a column that must differ from what it was at the last write; blank for none
 */
public record Timing(
        int atMostEveryHours,
        Optional<DailyWindow> window,
        Optional<LocalDate> notBefore,
        Optional<LocalDate> notAfter,
        String zone,
        String onlyWithColumn) {
    private static final int DAY = 24;
    private static final DateTimeFormatter DATE = DateTimeFormatter.ofPattern("d MMM uuuu", Locale.ENGLISH);

    /** A time of day, from the first to before the second; over midnight when the first is the later one. */
    public record DailyWindow(LocalTime from, LocalTime to) {
        boolean holds(LocalTime time) {
            boolean begun = !time.isBefore(from);
            boolean going = time.isBefore(to);
            return from.isBefore(to) ? begun && going : begun || going;
        }
    }

    /** Whether a value goes now. */
    public sealed interface Answer {
        record Goes() implements Answer {}

        /** @param until when it is looked at again; absent when a change of the row brings that about */
        record Waits(Optional<Instant> until, String reason) implements Answer {}

        record Over(String reason) implements Answer {}
    }

    /**
     * @param lastWritten when the field was last written there by us
     * @param markThen fingerprint of {@code onlyWithColumn} at the last write
     * @param markNow its fingerprint now
     */
    public Answer at(Instant now, Optional<Instant> lastWritten, Optional<Long> markThen, long markNow) {
        ZonedDateTime here = now.atZone(ZoneId.of(zone));
        if (notAfter.filter(day -> here.toLocalDate().isAfter(day)).isPresent()) {
            return new Answer.Over("not written after " + DATE.format(notAfter.get()));
        }
        if (notBefore.filter(day -> here.toLocalDate().isBefore(day)).isPresent()) {
            return new Answer.Waits(
                    notBefore.map(day -> day.atStartOfDay(here.getZone()).toInstant()),
                    "waits: not written before " + DATE.format(notBefore.get()));
        }
        if (!onlyWithColumn.isBlank()
                && markThen.filter(mark -> mark == markNow).isPresent()) {
            return new Answer.Waits(Optional.empty(), "waits: written only when " + onlyWithColumn + " changes");
        }
        Optional<Instant> next = lastWritten
                .filter(last -> atMostEveryHours > 0)
                .map(last -> last.plus(Duration.ofHours(atMostEveryHours)))
                .filter(now::isBefore);
        if (next.isPresent()) {
            return new Answer.Waits(
                    next,
                    "waits: written " + ago(Duration.between(lastWritten.get(), now)) + " ago, at most "
                            + every(atMostEveryHours));
        }
        if (window.filter(one -> !one.holds(here.toLocalTime())).isPresent()) {
            return new Answer.Waits(
                    Optional.of(opening(here, window.get())), "waits: written only " + words(window.get()));
        }
        return new Answer.Goes();
    }

    private static Instant opening(ZonedDateTime here, DailyWindow window) {
        ZonedDateTime today = here.toLocalDate().atTime(window.from()).atZone(here.getZone());
        ZonedDateTime next = today.isAfter(here)
                ? today
                : here.toLocalDate().plusDays(1).atTime(window.from()).atZone(here.getZone());
        return next.toInstant();
    }

    private String words(DailyWindow one) {
        return "between " + one.from() + " and " + one.to() + " (" + zone + ")";
    }

    /** What it says of a rule, as the end of a sentence; blank for nothing. */
    public String sentence() {
        StringBuilder out = new StringBuilder();
        if (atMostEveryHours > 0) {
            out.append(", at most ").append(every(atMostEveryHours));
        }
        window.ifPresent(one -> out.append(", only ").append(words(one)));
        notBefore.ifPresent(day -> out.append(", not before ").append(DATE.format(day)));
        notAfter.ifPresent(day -> out.append(", not after ").append(DATE.format(day)));
        if (!onlyWithColumn.isBlank()) {
            out.append(", only when ").append(onlyWithColumn).append(" changes");
        }
        return out.toString();
    }

    private static String every(int hours) {
        if (hours == DAY) {
            return "daily";
        }
        return hours % DAY == 0
                ? "every " + hours / DAY + " days"
                : hours == 1 ? "hourly" : "every " + hours + " hours";
    }

    private static String ago(Duration past) {
        if (past.toMinutes() < 1) {
            return "less than a minute";
        }
        if (past.toHours() < 1) {
            return past.toMinutes() + " min";
        }
        return past.toHours() < 2 * DAY ? past.toHours() + " h" : past.toDays() + " days";
    }
}

package remitto.core.audience;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.TemporalAdjusters;
import java.util.Optional;

/** Which events count by their time. Days in time zone a zone; both ends that are named belong to the window. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Window.Ever.class, name = "ever"),
    @JsonSubTypes.Type(value = Window.LastDays.class, name = "last-days"),
    @JsonSubTypes.Type(value = Window.LastHours.class, name = "last-hours"),
    @JsonSubTypes.Type(value = Window.FromTo.class, name = "from-to"),
    @JsonSubTypes.Type(value = Window.OnOrAfter.class, name = "since"),
    @JsonSubTypes.Type(value = Window.Earlier.class, name = "until"),
    @JsonSubTypes.Type(value = Window.Whole.class, name = "calendar")
})
public sealed interface Window {
    /** From {@code from} on, up to but without {@code until}; an absent end is open. */
    record Interval(Optional<Instant> from, Optional<Instant> until) {
        public boolean contains(Instant at) {
            return from.filter(at::isBefore).isEmpty()
                    && until.filter(end -> !at.isBefore(end)).isEmpty();
        }
    }

    /** When it is now, for a zone. */
    record Now(Instant instant, ZoneId zone) {
        public LocalDate today() {
            return instant.atZone(zone).toLocalDate();
        }

        public Instant startOf(LocalDate day) {
            return day.atStartOfDay(zone).toInstant();
        }
    }

    Interval at(Now now);

    /** True when the window moves on as time passes. */
    default boolean moves() {
        return !(this instanceof Ever
                || this instanceof FromTo
                || this instanceof OnOrAfter
                || this instanceof Earlier);
    }

    /** At any time. */
    record Ever() implements Window {
        @Override
        public Interval at(Now now) {
            return new Interval(Optional.empty(), Optional.empty());
        }
    }

    /** From the day that many days ago until now; the last 0 days are today. What is in the future does not count. */
    record LastDays(int days) implements Window {
        public LastDays {
            if (days < 0 || days > 36_600) {
                throw new IllegalArgumentException("Days of a window: 0 to 36600, not " + days);
            }
        }

        @Override
        public Interval at(Now now) {
            return new Interval(
                    Optional.of(now.startOf(now.today().minusDays(days))),
                    Optional.of(now.instant().plusNanos(1_000)));
        }
    }

    /** Exactly so many hours until now. */
    record LastHours(int hours) implements Window {
        public LastHours {
            if (hours < 1 || hours > 100_000) {
                throw new IllegalArgumentException("Hours of a window: 1 to 100000, not " + hours);
            }
        }

        @Override
        public Interval at(Now now) {
            return new Interval(
                    Optional.of(now.instant().minusSeconds(hours * 3600L)),
                    Optional.of(now.instant().plusNanos(1_000)));
        }
    }

    /** From one day to another, both included. */
    record FromTo(LocalDate from, LocalDate to) implements Window {
        @Override
        public Interval at(Now now) {
            return new Interval(Optional.of(now.startOf(from)), Optional.of(now.startOf(to.plusDays(1))));
        }
    }

    /** On or after a day. */
    record OnOrAfter(LocalDate day) implements Window {
        @Override
        public Interval at(Now now) {
            return new Interval(Optional.of(now.startOf(day)), Optional.empty());
        }
    }

    /** Before the day, which does not belong to it. */
    record Earlier(LocalDate day) implements Window {
        @Override
        public Interval at(Now now) {
            return new Interval(Optional.empty(), Optional.of(now.startOf(day)));
        }
    }

    /**
     * A whole day, week, month or year of the calendar.
     *
     * @param back 0 for the one of now, 1 for the one before
     */
    record Whole(Span span, int back) implements Window {
        public Whole {
            if (back < 0 || back > 1_000) {
                throw new IllegalArgumentException("Stretches back: 0 to 1000, not " + back);
            }
        }

        @Override
        public Interval at(Now now) {
            LocalDate today = now.today();
            LocalDate first =
                    switch (span) {
                        case DAY -> today.minusDays(back);
                        case WEEK ->
                            today.with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY))
                                    .minusWeeks(back);
                        case MONTH -> today.withDayOfMonth(1).minusMonths(back);
                        case YEAR -> today.withDayOfYear(1).minusYears(back);
                    };
            LocalDate next =
                    switch (span) {
                        case DAY -> first.plusDays(1);
                        case WEEK -> first.plusWeeks(1);
                        case MONTH -> first.plusMonths(1);
                        case YEAR -> first.plusYears(1);
                    };
            return new Interval(Optional.of(now.startOf(first)), Optional.of(now.startOf(next)));
        }
    }
}

package remitto.core.timetable;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Optional;
import java.util.Set;

/** When a route departs. Zones are names of the tz database; local times are minutes exact. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Schedule.ByHand.class, name = "by-hand"),
    @JsonSubTypes.Type(value = Schedule.OnChange.class, name = "on-change"),
    @JsonSubTypes.Type(value = Schedule.Every.class, name = "every"),
    @JsonSubTypes.Type(value = Schedule.Daily.class, name = "daily"),
    @JsonSubTypes.Type(value = Schedule.Weekly.class, name = "weekly")
})
public sealed interface Schedule {

    /** The first departure strictly after a moment; empty when somebody has to ask for it. */
    Optional<Instant> next(Instant after);

    /** The first departure of a schedule that was set at a moment. */
    default Optional<Instant> begins(Instant set) {
        return next(set);
    }

    /** The zone in which its times are told. */
    String zone();

    /** The route departs only when somebody starts it. */
    record ByHand(String zone) implements Schedule {
        @Override
        public Optional<Instant> next(Instant after) {
            return Optional.empty();
        }
    }

    /**
     * Whenever the data has changed. No clock tells that, so there is no next departure until somebody has looked at the data; what
     * was there before it was set counts as changed.
     */
    record OnChange(String zone) implements Schedule {
        @Override
        public Optional<Instant> next(Instant after) {
            return Optional.empty();
        }

        @Override
        public Optional<Instant> begins(Instant set) {
            return Optional.of(set);
        }
    }

    /** Every so many minutes, counted from midnight UTC, 1 January 1970, so that a restart shifts nothing. */
    record Every(int minutes, String zone) implements Schedule {
        public Every {
            if (minutes < 1 || minutes > 24 * 60) {
                throw new IllegalArgumentException("Minutes between departures: 1 to 1440, not " + minutes);
            }
        }

        @Override
        public Optional<Instant> next(Instant after) {
            long step = Duration.ofMinutes(minutes).toSeconds();
            return Optional.of(Instant.ofEpochSecond((Math.floorDiv(after.getEpochSecond(), step) + 1) * step));
        }
    }

    /**
     * Once a day. When the clock springs over the time, it departs that much later on the same day; when the
     * clock goes back, at the first of the two.
     */
    record Daily(LocalTime time, String zone) implements Schedule {
        @Override
        public Optional<Instant> next(Instant after) {
            return Optional.of(nextOn(after, time, ZoneId.of(zone), Set.of(DayOfWeek.values())));
        }
    }

    /** On chosen days of the week, otherwise as {@link Daily}. */
    record Weekly(Set<DayOfWeek> days, LocalTime time, String zone) implements Schedule {
        public Weekly {
            if (days.isEmpty()) {
                throw new IllegalArgumentException("A weekly departure needs at least one day");
            }
            days = Set.copyOf(days);
        }

        @Override
        public Optional<Instant> next(Instant after) {
            return Optional.of(nextOn(after, time, ZoneId.of(zone), days));
        }
    }

    private static Instant nextOn(Instant after, LocalTime time, ZoneId zone, Set<DayOfWeek> days) {
        LocalDate day = after.atZone(zone).toLocalDate().minusDays(1);
        while (true) {
            if (days.contains(day.getDayOfWeek())) {
                Instant departure = day.atTime(time).atZone(zone).toInstant();
                if (departure.isAfter(after)) {
                    return departure;
                }
            }
            day = day.plusDays(1);
        }
    }
}

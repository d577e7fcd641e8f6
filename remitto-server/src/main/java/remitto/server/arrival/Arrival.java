package remitto.server.arrival;

import java.time.Instant;
import java.util.List;
import remitto.server.platform.Personal;

/**
 * Something that came in.
 *
 * @param id tells arrivals of one kind apart
 * @param at when it came in; of a file when it was read, or first seen while it was not
 * @param subject the receiver, file set or dataset that it belongs to
 * @param what the path of a file, or what a dataset was read for; blank for a call
 * @param rows that it brought
 * @param first the first cells of its first row; empty where it has none
 * @param detail what does not fit, in words; blank if everything fits
 */
public record Arrival(
        Kind kind,
        long id,
        Instant at,
        Subject subject,
        String what,
        long rows,
        @Personal List<String> first,
        Mark mark,
        @Personal(Personal.Part.IN_TEXT) String detail) {
    public Arrival {
        first = List.copyOf(first);
    }

    /** Ways in which data comes in. */
    public enum Kind {
        CALL,
        FILE,
        READ
    }

    /** What became of an arrival. */
    public enum Mark {
        FITS,
        /** It has not been laid out in rows yet. */
        WAITING,
        /** The same event was there before, so that nothing was taken. */
        DOUBLE,
        /** Some of its rows do not fit and are held. */
        HELD,
        /** Not taken, such as a call with a wrong signature. */
        REFUSED,
        /** It could not be read. */
        FAILED,
        /** The dataset does not meet what is expected of it. */
        UNEXPECTED
    }

    /**
     * What arrivals belong to.
     *
     * @param id of the receiver, the file set or the dataset
     */
    public record Subject(long id, String name, long sourceId, String source) {}
}

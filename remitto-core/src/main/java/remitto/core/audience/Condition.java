package remitto.core.audience;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.List;

/**
 * Whom an audience takes. Every condition holds for a person or does not: a test of a value that is empty does not
 * hold, and its opposite does.
 */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Condition.Everyone.class, name = "everyone"),
    @JsonSubTypes.Type(value = Condition.AllOf.class, name = "all"),
    @JsonSubTypes.Type(value = Condition.AnyOf.class, name = "any"),
    @JsonSubTypes.Type(value = Condition.Unless.class, name = "not"),
    @JsonSubTypes.Type(value = Condition.AttributeHolds.class, name = "attribute"),
    @JsonSubTypes.Type(value = Condition.MeasureHolds.class, name = "events"),
    @JsonSubTypes.Type(value = Condition.EventThen.class, name = "sequence"),
    @JsonSubTypes.Type(value = Condition.InAudience.class, name = "audience"),
    @JsonSubTypes.Type(value = Condition.Agreed.class, name = "consent"),
    @JsonSubTypes.Type(value = Condition.RecordIn.class, name = "dataset"),
    @JsonSubTypes.Type(value = Condition.SentTo.class, name = "sent")
})
public sealed interface Condition {
    /** All people; never assumed, always said. */
    record Everyone() implements Condition {}

    /** All of the conditions hold. */
    record AllOf(List<Condition> conditions) implements Condition {
        public AllOf {
            conditions = List.copyOf(conditions);
        }
    }

    /** Any of the conditions holds. */
    record AnyOf(List<Condition> conditions) implements Condition {
        public AnyOf {
            conditions = List.copyOf(conditions);
        }
    }

    /** The condition does not hold. */
    record Unless(Condition condition) implements Condition {}

    /** An attribute or a measure that is kept for every person. */
    record AttributeHolds(String attribute, ValueTest test) implements Condition {}

    /** A number or day over the person's events, worked out for this condition. */
    record MeasureHolds(Measure measure, ValueTest test) implements Condition {}

    /**
     * One event, and another after it within so many days, or none: an event in the window, and strictly later, up to the end
     * of the day that many days on, in the zone of the audience. That none came is said only once those days are over.
     */
    record EventThen(EventsOf first, Window window, EventsOf then, int days, boolean none) implements Condition {
        public EventThen {
            if (days < 0 || days > 3660) {
                throw new IllegalArgumentException("Days until what follows: 0 to 3660, not " + days);
            }
        }
    }

    /** A member of another audience by its latest count. */
    record InAudience(long audience) implements Condition {}

    /**
     * What a person answered to a purpose by a channel.
     *
     * @param channel as consents are asked for, such as email
     */
    record Agreed(String purpose, String channel, Answer answer) implements Condition {}

    /** What a person last said, by the order of consents. */
    enum Answer {
        YES,
        NO,
        /** Neither; also after a yes that has expired. */
        NOT_ASKED
    }

    /** A record of the person is in the dataset. */
    record RecordIn(long dataset) implements Condition {}

    /** Whether the destination of a route holds a record of the person. */
    record SentTo(long route, SentState state) implements Condition {}

    /** Route activity with a person. */
    enum SentState {
        /** It keeps a record of the person at the destination. */
        SENT,
        /** The person's record is held. */
        HELD
    }
}

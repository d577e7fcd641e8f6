package remitto.core.audience;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import remitto.core.value.Value;

/** What is known of one person, to judge conditions by in memory. */
public interface Facts {
    /** The value of an attribute or measure; {@link Value#EMPTY} where there is none. */
    Value attribute(String name);

    /** All events of a kind, in any order. */
    List<Event> events(String name);

    boolean isMember(long audience);

    Condition.Answer answer(String purpose, String channel);

    boolean hasRecordIn(long dataset);

    boolean wasSent(long route, Condition.SentState state);

    /**
     * One event of a person.
     *
     * @param number in the order of reading, which decides between events of one moment
     */
    record Event(long number, Instant at, Map<String, Value> columns) {
        public Event {
            columns = Map.copyOf(columns);
        }

        Value column(String name) {
            return columns.getOrDefault(name, Value.EMPTY);
        }
    }
}

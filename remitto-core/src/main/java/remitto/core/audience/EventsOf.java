package remitto.core.audience;

import java.util.List;

/** Events of one kind, narrowed by what their columns say. @param where all of which hold */
public record EventsOf(String events, List<EventTest> where) {
    public EventsOf {
        where = List.copyOf(where);
    }

    /** A test of one column of an event. */
    public record EventTest(String column, ValueTest test) {}
}

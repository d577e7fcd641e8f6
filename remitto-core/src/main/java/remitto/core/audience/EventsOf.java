package remitto.core.audience;

import java.util.List;

/**
 * Events of one kind, narrowed by what their columns say.
 *
 * @param where all of which hold
 */
public record EventsOf(String events, List<EventTest> where) {
    private static final int MOST_TESTS = 20;

    public EventsOf {
        where = List.copyOf(where);
        if (where.size() > MOST_TESTS) {
            throw new AudienceFault("Events are narrowed by at most " + MOST_TESTS + " tests.");
        }
    }

    /** A test of one column of an event. */
    public record EventTest(String column, ValueTest test) {}
}

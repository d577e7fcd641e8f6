package remitto.server.expectation;

/**
 * What a dataset is read for.
 *
 * @param name of the route; blank for others
 */
public record ReadFor(Reader reader, String name) {
    /** Kinds of readers. */
    public enum Reader {
        ROUTE,
        MATCHING,
        /** Somebody asked for a check, or it was due. */
        CHECK
    }

    public static ReadFor route(String name) {
        return new ReadFor(Reader.ROUTE, name);
    }

    public static final ReadFor MATCHING = new ReadFor(Reader.MATCHING, "");
    public static final ReadFor CHECK = new ReadFor(Reader.CHECK, "");
}

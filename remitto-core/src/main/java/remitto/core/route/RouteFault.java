package remitto.core.route;

/**
 * Something that keeps a route from being put in service, or that its author should know.
 *
 * @param blocking false for advice
 * @param ruleOnly true when only this rule is concerned: a route in service runs on without it
 * @param field the destination field it is about; blank for the route as a whole
 * @param line line in the rule's expression, from 1; 0 when it is not about a place in a text
 * @param column column in that line, from 0
 */
public record RouteFault(boolean blocking, boolean ruleOnly, String field, String message, int line, int column) {
    public static RouteFault blocking(String field, String message) {
        return new RouteFault(true, false, field, message, 0, 0);
    }

    public static RouteFault advice(String field, String message) {
        return new RouteFault(false, false, field, message, 0, 0);
    }

    RouteFault ofRuleOnly() {
        return new RouteFault(blocking, true, field, message, line, column);
    }

    /** True when a route in service cannot run at all. */
    public boolean stopsRuns() {
        return blocking && !ruleOnly;
    }
}

package remitto.core.fieldrule;

/**
 * How it is told which side's value is newer. There it is the time the tool itself gives for the field, as its profile
 * says.
 *
 * @param column point in time at which the source last changed the row
 * @param skewSeconds by so much the clocks of the two sides may differ; a value that is newer by less is not
 */
public record Newer(String column, int skewSeconds) {}

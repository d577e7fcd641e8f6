package remitto.core.landed;

/**
 * A column as it was found, with what speaks for it.
 *
 * @param column proposed
 * @param evidence in words
 * @param filled cells with a value, of those that were looked at
 * @param distinct values among them
 * @param asKey whether every one that was looked at has a value and none is there twice
 */
public record ColumnGuess(LandedColumn column, String evidence, int filled, int distinct, boolean asKey) {}

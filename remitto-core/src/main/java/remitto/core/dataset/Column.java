package remitto.core.dataset;

/** A named, typed column of a dataset with its role. */
public record Column(String name, ColumnType type, ColumnRole role) {}

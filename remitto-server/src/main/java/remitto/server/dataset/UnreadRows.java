package remitto.server.dataset;

/** Knows of rows that belong to a dataset and that reading it does not give, since they are held on the way to where it is read. */
public interface UnreadRows {
    /** How many there may be. */
    long of(long sourceId, DatasetDefinition.Query query);
}

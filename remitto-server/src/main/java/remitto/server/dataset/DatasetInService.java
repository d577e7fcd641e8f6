package remitto.server.dataset;

/** A version of a dataset was put in service; told within the transaction that did so. */
public record DatasetInService(long dataset, DatasetDefinition definition) {}

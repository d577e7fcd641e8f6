package remitto.server.people;

/** Whom records describe; the two are joined by the same machinery and never with each other. */
public enum EntityType {
    PERSON,
    COMPANY
}

package remitto.connect.database;

/**
 * All that is known of one kind of database.
 *
 * @param <S> what its sessions are opened with
 */
public record Dialect<S>(Spelling spelling, Sessions<S> sessions) {}

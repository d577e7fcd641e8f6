package remitto.connect.database;

/** All that is known of one kind of database. */
public record Dialect(Spelling spelling, Sessions sessions) {}

package remitto.server.people;

/** Told once persons or companies were joined and all of it is written down. */
public record PeopleJoined(About about) {}

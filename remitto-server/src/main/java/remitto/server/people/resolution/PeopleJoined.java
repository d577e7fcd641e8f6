package remitto.server.people.resolution;

import remitto.server.people.About;

/** Told once persons or companies were joined and all of it is written down. */
public record PeopleJoined(About about) {}

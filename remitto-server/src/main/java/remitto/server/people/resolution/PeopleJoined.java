package remitto.server.people.resolution;

import remitto.server.people.EntityType;

/** Told once persons or companies were joined and all of it is written down. */
public record PeopleJoined(EntityType entityType) {}

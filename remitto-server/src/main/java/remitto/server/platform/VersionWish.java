package remitto.server.platform;

/** Which saved version goes into service. */
public record VersionWish(int version) {}

package remitto.server.platform;

/** Which saved version goes into service. */
public record VersionRequest(int version) {}

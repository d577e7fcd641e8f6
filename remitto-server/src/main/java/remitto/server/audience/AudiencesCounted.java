package remitto.server.audience;

/** Told when audiences have been brought up to date, as far as that was possible. */
public record AudiencesCounted() {}

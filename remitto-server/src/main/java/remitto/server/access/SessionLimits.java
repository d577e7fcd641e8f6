package remitto.server.access;

import java.time.Duration;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * When sessions end.
 *
 * @param longest after signing in, whatever is done in between
 * @param purpose how long a stated purpose opens sensitive values
 */
@ConfigurationProperties("remitto.session")
record SessionLimits(
        @DefaultValue("24h") Duration longest,
        @DefaultValue("30m") Duration purpose) {}

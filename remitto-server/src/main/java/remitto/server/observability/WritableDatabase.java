package remitto.server.observability;

import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Lane;

/** Whether the database takes what is written: a standby that answers is not enough to send from. */
@Component("writableDatabase")
class WritableDatabase implements HealthIndicator {
    private final JdbcClient jdbc;

    WritableDatabase(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public Health health() {
        return Lane.BEAT.call(() -> {
            try {
                boolean readOnly = jdbc.sql("select current_setting('transaction_read_only')::boolean")
                        .query(Boolean.class)
                        .single();
                return readOnly ? Health.outOfService().build() : Health.up().build();
            } catch (RuntimeException e) {
                return Health.down().build();
            }
        });
    }
}

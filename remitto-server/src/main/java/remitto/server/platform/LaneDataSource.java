package remitto.server.platform;

import com.zaxxer.hikari.HikariDataSource;
import com.zaxxer.hikari.metrics.micrometer.MicrometerMetricsTrackerFactory;
import io.micrometer.core.instrument.MeterRegistry;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import javax.sql.DataSource;
import org.springframework.jdbc.datasource.lookup.AbstractRoutingDataSource;
import remitto.server.asker.AskedConnection;
import remitto.server.asker.Askers;

/** A pool of connections for each lane. */
public final class LaneDataSource extends AbstractRoutingDataSource implements AutoCloseable {
    private final Map<Lane, HikariDataSource> pools;

    private final Askers askers;

    LaneDataSource(Map<Lane, HikariDataSource> pools, Askers askers) {
        this.pools = Map.copyOf(pools);
        this.askers = askers;
        setTargetDataSources(new HashMap<>(pools));
        if (!pools.keySet().containsAll(Arrays.asList(Lane.values()))) {
            throw new IllegalArgumentException("every lane has a pool");
        }
    }

    /** The pool of one lane, whatever lane a thread is in. */
    public DataSource pool(Lane lane) {
        return pools.get(lane);
    }

    /** Counts what the pool of a lane does from now on. */
    public void measure(Lane lane, MeterRegistry registry) {
        pools.get(lane).setMetricsTrackerFactory(new MicrometerMetricsTrackerFactory(registry));
    }

    /** A connection of the thread's lane. What runs on it for somebody who asked ends when they have gone. */
    @Override
    public Connection getConnection() throws SQLException {
        Connection connection = super.getConnection();
        return askers.isAsked()
                ? AskedConnection.of(connection, askers, pools.get(Lane.current())::evictConnection)
                : connection;
    }

    @Override
    protected Object determineCurrentLookupKey() {
        return Lane.current();
    }

    /** Closes every pool; whoever holds a connection loses it. */
    @Override
    public void close() {
        pools.values().forEach(HikariDataSource::close);
    }
}

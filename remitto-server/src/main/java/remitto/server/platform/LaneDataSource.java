package remitto.server.platform;

import com.zaxxer.hikari.HikariDataSource;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import javax.sql.DataSource;
import org.springframework.jdbc.datasource.lookup.AbstractRoutingDataSource;

/** A pool of connections for each lane. */
public final class LaneDataSource extends AbstractRoutingDataSource implements AutoCloseable {
    private final Map<Lane, HikariDataSource> pools;

    LaneDataSource(Map<Lane, HikariDataSource> pools) {
        this.pools = Map.copyOf(pools);
        setTargetDataSources(new HashMap<>(pools));
        if (!pools.keySet().containsAll(Arrays.asList(Lane.values()))) {
            throw new IllegalArgumentException("every lane has a pool");
        }
    }

    /** The pool of one lane, whatever lane a thread is in. */
    public DataSource pool(Lane lane) {
        return pools.get(lane);
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

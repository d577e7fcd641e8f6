package remitto.server.platform;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.EnumMap;
import java.util.Map;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.jdbc.autoconfigure.DataSourceProperties;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.Ordered;
import org.springframework.core.task.SimpleAsyncTaskExecutor;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.servlet.config.annotation.AsyncSupportConfigurer;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import remitto.server.asker.Askers;

/** Pools of database connections, one a lane, each with limits of its own. */
@Configuration
class LaneConfiguration implements WebMvcConfigurer {
    private static final int DOWNLOADS_AT_A_TIME = 12;
    /** How long a request waits for a connection before it is told that the server is busy. */
    private static final long CONNECTION_WAIT_MILLIS = 10_000;

    @Bean
    LaneDataSource dataSource(
            DataSourceProperties properties,
            Askers askers,
            @Value("${remitto.database.socket-seconds:7200}") int socketSeconds) {
        Map<Lane, HikariDataSource> pools = new EnumMap<>(Lane.class);
        for (Lane lane : Lane.values()) {
            pools.put(lane, pool(lane, properties, socketSeconds));
        }
        return new LaneDataSource(pools, askers);
    }

    private static HikariDataSource pool(Lane lane, DataSourceProperties properties, int socketSeconds) {
        HikariConfig config = new HikariConfig();
        config.setPoolName(lane.name().toLowerCase(java.util.Locale.ROOT));
        config.setJdbcUrl(properties.determineUrl());
        config.setUsername(properties.determineUsername());
        config.setPassword(properties.determinePassword());
        config.setMaximumPoolSize(lane.connections());
        config.setMinimumIdle(lane == Lane.QUESTIONS || lane == Lane.DOWNLOADS ? 0 : 1);
        config.setConnectionTimeout(CONNECTION_WAIT_MILLIS * (lane == Lane.WORK ? 6 : 1));
        config.addDataSourceProperty("ApplicationName", "Remitto " + config.getPoolName());
        config.addDataSourceProperty("reWriteBatchedInserts", "true");
        config.addDataSourceProperty("connectTimeout", "8");
        config.addDataSourceProperty("tcpKeepAlive", "true");
        config.addDataSourceProperty("socketTimeout", Integer.toString(socketSeconds(lane, socketSeconds)));
        config.addDataSourceProperty("options", options(lane));
        return new HikariDataSource(config);
    }

    /** A connection that says nothing for longer is dead: what it ran would have ended by its statement time limit. */
    private static int socketSeconds(Lane lane, int longest) {
        return switch (lane) {
            case BEAT, CALLS -> 15;
            case QUESTIONS -> 60;
            case WEB -> 330;
            case WORK, DOWNLOADS -> longest;
        };
    }

    /** Statement and lock time limits; work that goes on by itself takes as long as it takes. */
    private static String options(Lane lane) {
        return switch (lane) {
            case BEAT, CALLS -> "-c statement_timeout=8000 -c lock_timeout=4000";
            case QUESTIONS -> "-c statement_timeout=30000 -c lock_timeout=4000";
            case WEB -> "-c statement_timeout=300000 -c lock_timeout=30000";
            case WORK -> "-c lock_timeout=600000";
            case DOWNLOADS -> "-c lock_timeout=30000";
        };
    }

    /** Before everything else that a request meets, since its session is read from the database too. */
    @Bean
    FilterRegistrationBean<OncePerRequestFilter> webLane() {
        FilterRegistrationBean<OncePerRequestFilter> filter = new FilterRegistrationBean<>(new WebLane());
        filter.setOrder(Ordered.HIGHEST_PRECEDENCE);
        return filter;
    }

    @Bean
    FilterRegistrationBean<OncePerRequestFilter> bodyLimit() {
        FilterRegistrationBean<OncePerRequestFilter> filter = new FilterRegistrationBean<>(new BodyLimit());
        filter.setOrder(Ordered.HIGHEST_PRECEDENCE + 1);
        return filter;
    }

    private static final class WebLane extends OncePerRequestFilter {
        @Override
        protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
                throws ServletException, IOException {
            Failure failure = Lane.WEB.call(() -> {
                try {
                    chain.doFilter(request, response);
                    return new Failure();
                } catch (IOException e) {
                    return new Failure(e);
                } catch (ServletException e) {
                    return new Failure(e);
                }
            });
            failure.raise();
        }
    }

    /** A checked exception on its way through a supplier. */
    private static final class Failure {
        private final java.util.Optional<Exception> cause;

        Failure() {
            cause = java.util.Optional.empty();
        }

        Failure(Exception cause) {
            this.cause = java.util.Optional.of(cause);
        }

        void raise() throws IOException, ServletException {
            if (cause.isPresent()) {
                Exception thrown = cause.get();
                if (thrown instanceof IOException io) {
                    throw io;
                }
                throw (ServletException) thrown;
            }
        }
    }

    /** Downloads are written by threads of their own, so many at a time. */
    @Override
    public void configureAsyncSupport(AsyncSupportConfigurer configurer) {
        SimpleAsyncTaskExecutor executor = new SimpleAsyncTaskExecutor("download-");
        executor.setConcurrencyLimit(DOWNLOADS_AT_A_TIME);
        executor.setRejectTasksWhenLimitReached(true);
        executor.setTaskDecorator(work -> () -> Lane.DOWNLOADS.run(work));
        configurer.setTaskExecutor(executor);
        configurer.setDefaultTimeout(-1);
    }
}

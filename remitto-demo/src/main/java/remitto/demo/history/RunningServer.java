package remitto.demo.history;

import java.net.URI;
import java.time.Clock;
import java.util.Map;
import java.util.stream.Stream;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.support.GenericApplicationContext;
import remitto.server.RemittoServer;
import remitto.server.platform.LaneDataSource;

/** The real server in this process, on any free port, with a clock that can be set. */
public final class RunningServer implements AutoCloseable {
    private static final String CLOCK = "clock";

    private final ConfigurableApplicationContext context;
    private final ShiftedClock clock;

    private RunningServer(ConfigurableApplicationContext context, ShiftedClock clock) {
        this.context = context;
        this.clock = clock;
    }

    /** @param properties settings of the server, on top of its own */
    public static RunningServer start(Map<String, Object> properties) {
        return start(properties, new ShiftedClock());
    }

    /** @param clock says what time it is from the start */
    public static RunningServer start(Map<String, Object> properties, ShiftedClock clock) {
        ConfigurableApplicationContext context = new SpringApplicationBuilder(RemittoServer.class)
                .main(RemittoServer.class)
                .initializers((GenericApplicationContext fresh) -> {
                    if (fresh.containsBeanDefinition(CLOCK)) {
                        fresh.removeBeanDefinition(CLOCK);
                    }
                    fresh.registerBean(CLOCK, Clock.class, () -> clock);
                })
                .run(Stream.concat(
                                Stream.of("--server.port=0", "--remitto.stand-ins=true")
                                        .filter(one -> !properties.containsKey(one.substring(2, one.indexOf('=')))),
                                properties.entrySet().stream()
                                        .map(entry -> "--" + entry.getKey() + "=" + entry.getValue()))
                        .toArray(String[]::new));
        return new RunningServer(context, clock);
    }

    public ShiftedClock clock() {
        return clock;
    }

    public URI address() {
        return URI.create("http://127.0.0.1:" + context.getEnvironment().getProperty("local.server.port"));
    }

    public <T> T bean(Class<T> type) {
        return context.getBean(type);
    }

    /**
     * Ends it as a kill would, as far as one process allows: its database is gone from one moment to the next, so that
     * nothing more is written down or let go of, while calls that were made may still land.
     */
    public void kill() {
        try (context) {
            bean(LaneDataSource.class).close();
        }
    }

    @Override
    public void close() {
        context.close();
    }
}

package remitto.standins.fault;

import io.javalin.Javalin;
import io.javalin.config.RoutesConfig;
import java.time.Duration;
import java.util.function.Consumer;
import remitto.standins.DeskClock;
import tools.jackson.databind.ObjectMapper;

/** What every stand-in has at its door: a clock, faults, a limit, a log of calls, and their controls. */
public final class FrontDesk {
    private final FaultPanel faults = new FaultPanel();
    private final CallLog calls = new CallLog();
    private final DeskClock clock = new DeskClock();
    private final CallLimit limit;
    private final ObjectMapper json;

    /** @param most calls taken within any window */
    public FrontDesk(int most, Duration window, ObjectMapper json) {
        this.limit = new CallLimit(most, window);
        this.json = json;
    }

    public FaultPanel faults() {
        return faults;
    }

    public CallLimit limit() {
        return limit;
    }

    public CallLog calls() {
        return calls;
    }

    public DeskClock clock() {
        return clock;
    }

    public Gate gate() {
        return new Gate(faults, limit, calls, clock, json);
    }

    /**
     * Starts to listen on loopback.
     *
     * @param port 0 for any free one
     * @param largestBody of a call, in bytes
     */
    public Javalin open(int port, long largestBody, Consumer<RoutesConfig> mount) {
        return Javalin.create(config -> {
                    config.startup.showJavalinBanner = false;
                    config.http.maxRequestSize = largestBody;
                    config.jetty.host = "127.0.0.1";
                    mount.accept(config.routes);
                    new FaultControls(faults, limit, calls, clock, json).mount(config.routes);
                })
                .start(port);
    }
}

package remitto.standins.fault;

import io.javalin.Javalin;
import io.javalin.config.RoutesConfig;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.function.Consumer;
import remitto.standins.DeskClock;
import remitto.standins.page.Frame;
import tools.jackson.databind.ObjectMapper;

/** What every stand-in has at its door: a clock, faults, a limit, a log of calls, and their controls. */
public final class FrontDesk implements AutoCloseable {
    private final FaultPanel faults;
    private final Witness witness;
    private final CallLog calls = new CallLog();
    private final DeskClock clock = new DeskClock();
    private final CallLimit limit;
    private final Frame frame;
    private final ObjectMapper json;

    /**
     * @param kinds the faults it can have, of {@link FaultPanel#KINDS}
     * @param most calls taken within any window
     * @param data of the stand-in; its witness writes beside it
     */
    public FrontDesk(List<String> kinds, int most, Duration window, Frame frame, ObjectMapper json, Path data) {
        this.witness = new Witness(Testimony.beside(data), json);
        this.faults = new FaultPanel(kinds);
        this.frame = frame;
        this.limit = new CallLimit(most, window);
        this.json = json;
    }

    public DeskClock clock() {
        return clock;
    }

    public Gate gate() {
        return new Gate(faults, limit, calls, witness, clock, json);
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
                    new FaultPage(faults, limit, calls, frame).mount(config.routes);
                    new FaultControls(faults, limit, calls, clock, json).mount(config.routes);
                })
                .start(port);
    }

    @Override
    public void close() {
        witness.close();
    }
}

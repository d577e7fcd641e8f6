package remitto.standins.purser;

import io.javalin.Javalin;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import remitto.standins.DeskClock;
import remitto.standins.fault.CallLimit;
import remitto.standins.fault.CallLog;
import remitto.standins.fault.FaultPanel;
import remitto.standins.fault.Gate;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.json.JsonMapper;

/** Purser CRM, running on a loopback port. */
public final class Purser implements AutoCloseable {
    /** The client the demo signs in with. */
    public static final String CLIENT = "remitto-demo";

    public static final String SECRET = "gangplank-7731";
    private static final int CALLS = 120;
    private static final Duration WINDOW = Duration.ofSeconds(12);

    private final Javalin app;
    private final PurserStore store;

    private Purser(Javalin app, PurserStore store) {
        this.app = app;
        this.store = store;
    }

    /**
     * @param port 0 for any free one
     * @param data the file that holds its data across restarts
     */
    public static Purser start(int port, Path data) {
        ObjectMapper json = JsonMapper.builder().build();
        Catalogue catalogue = Catalogue.load(json, data.resolveSibling(data.getFileName() + ".catalogue"));
        PurserStore store = new PurserStore(data, catalogue, json);
        DeskClock clock = new DeskClock();
        FaultPanel faults = new FaultPanel();
        CallLimit limit = new CallLimit(CALLS, WINDOW);
        CallLog calls = new CallLog();
        Tokens tokens = new Tokens(Map.of(CLIENT, SECRET, "harbour-office", "breakwater-2208"));
        Javalin app = Javalin.create(config -> {
            config.startup.showJavalinBanner = false;
            config.http.maxRequestSize = 8_000_000L;
            config.jetty.host = "127.0.0.1";
            new PurserApi(catalogue, store, tokens, new Gate(faults, limit, calls, clock, json), clock, json)
                    .mount(config.routes);
            new PurserPages(catalogue, store, calls, clock, json).mount(config.routes);
            new DeskControls(faults, limit, calls, store, catalogue, clock, json).mount(config.routes);
        });
        app.start(port);
        return new Purser(app, store);
    }

    public int port() {
        return app.port();
    }

    @Override
    public void close() {
        app.stop();
        store.close();
    }
}

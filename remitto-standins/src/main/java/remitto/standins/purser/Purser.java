package remitto.standins.purser;

import io.javalin.Javalin;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import remitto.standins.fault.FaultPanel;
import remitto.standins.fault.FrontDesk;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.json.JsonMapper;

/** Purser CRM, running on a loopback port. */
public final class Purser implements AutoCloseable {
    /** The client the demo signs in with. */
    public static final String CLIENT = "remitto-demo";

    public static final String SECRET = "gangplank-7731";
    private static final int CALLS = 120;
    private static final long LARGEST_BODY = 8_000_000L;
    private static final Duration WINDOW = Duration.ofSeconds(12);

    private final Javalin app;
    private final PurserStore store;
    private final Tokens tokens;
    private final FrontDesk desk;

    private Purser(Javalin app, PurserStore store, Tokens tokens, FrontDesk desk) {
        this.desk = desk;
        this.app = app;
        this.store = store;
        this.tokens = tokens;
    }

    /**
     * @param port 0 for any free one
     * @param data the file that holds its data across restarts
     */
    public static Purser start(int port, Path data) {
        ObjectMapper json = JsonMapper.builder().build();
        Catalogue catalogue = Catalogue.load(json, data.resolveSibling(data.getFileName() + ".catalogue"));
        PurserFrame frame = new PurserFrame();
        PurserStore store = new PurserStore(data, catalogue, json);
        FrontDesk desk = new FrontDesk(FaultPanel.KINDS, CALLS, WINDOW, frame, json, data);
        Tokens tokens = new Tokens(
                Map.of(CLIENT, SECRET, "harbour-office", "breakwater-2208"),
                data.resolveSibling(data.getFileName() + ".logins"),
                json);
        Javalin app = desk.open(port, LARGEST_BODY, routes -> {
            new PurserApi(catalogue, store, tokens, desk.gate(), desk.clock(), json).mount(routes);
            new SignInPages(tokens, frame).mount(routes);
            new PurserPages(catalogue, store, frame, desk.clock(), json).mount(routes);
            new DeskControls(store, catalogue, frame, json).mount(routes);
        });
        return new Purser(app, store, tokens, desk);
    }

    public int port() {
        return app.port();
    }

    @Override
    public void close() {
        app.stop();
        store.close();
        tokens.close();
        desk.close();
    }
}

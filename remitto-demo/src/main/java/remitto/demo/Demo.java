package remitto.demo;

import java.net.URI;
import java.sql.Connection;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import remitto.demo.history.DemoHistory;
import remitto.demo.history.Desk;
import remitto.demo.history.Desks;
import remitto.demo.history.MoreRoutes;
import remitto.demo.history.RunningServer;
import remitto.demo.history.Scenario;
import remitto.demo.warehouse.Halvorn;

/** Loads the demo. Arguments: {@code load}, a size (small, medium, or a number of people), the addresses of the stand-ins. */
public final class Demo {
    private static final long SEED = 20_261;

    private Demo() {}

    public static void main(String[] args) throws Exception {
        Databases databases = new Databases(System.getenv("REMITTO_PG_URL"), System.getenv("REMITTO_PG_PASSWORD"));
        URI purser = URI.create(args[2]);
        Desk desk = new Desk(purser);
        Desk lamplight = new Desk(URI.create(args[3]));
        Desk foghorn = new Desk(URI.create(args[4]));
        Desk gangway = new Desk(URI.create(args[5]));
        Desk postbag = new Desk(URI.create(args[6]));
        List<Desk> desks = List.of(desk, lamplight, foghorn, gangway, postbag);
        desks.forEach(Desk::clear);
        new Desk(URI.create(args[7])).clear();
        new Desk(URI.create(args[8])).clear();
        desks.forEach(one -> one.limit(false));
        databases.fresh("remitto", "remitto");
        databases.fresh("halvorn", "halvorn_owner");
        databases.makePeopleReader();
        try (Connection warehouse = databases.owner("halvorn")) {
            new Halvorn(warehouse, SEED, people(args[1]), LocalDate.now(ZoneOffset.UTC)).load();
            databases.grantReader("halvorn");
            databases.makeWriter("halvorn");
            try (RunningServer server = RunningServer.start(Map.of(
                    "remitto.administrator.password",
                    "ferry-demo-2026",
                    // A week goes by while it is loaded, and nobody signs in again.
                    "remitto.session.longest",
                    "30d"))) {
                new DemoHistory(server, warehouse, new Desks(desk, lamplight, foghorn, gangway, postbag))
                        .live(
                                new Scenario.Places(
                                        "127.0.0.1",
                                        databases.port(),
                                        "halvorn",
                                        Databases.READER,
                                        Databases.READER_PASSWORD,
                                        purser.toString()),
                                new MoreRoutes.Outlets(args[3], args[4]),
                                new DemoHistory.Helpers(args[5], args[6], args[7], args[8]));
            }
        }
        desks.forEach(one -> one.limit(true));
    }

    private static int people(String size) {
        return switch (size) {
            case "small" -> 4_000;
            case "medium" -> 60_000;
            default -> Integer.parseInt(size);
        };
    }
}

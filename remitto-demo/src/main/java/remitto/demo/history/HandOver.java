package remitto.demo.history;

import java.net.URI;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.destination.FieldKind;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.file.FileColumn;
import remitto.core.file.FileContent;
import remitto.core.file.FileForm;
import remitto.core.file.FileLayout;
import remitto.core.file.FileName;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstDraft;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.NormaliseEmail;
import remitto.core.timetable.Schedule;
import tools.jackson.databind.JsonNode;

/** An audience handed over as a file to the island guide that prints the timetable, who takes it from a server of theirs. */
public final class HandOver {
    public static final String LIST = "islanders";
    private static final String ZONE = "Europe/Oslo";

    private final Api editor;
    private final Scenario scenario;

    public HandOver(Api editor, Scenario scenario) {
        this.editor = editor;
        this.scenario = scenario;
    }

    /** @param hostKey fingerprint of the server's key */
    public record Server(int sftpPort, String hostKey) {
        /**
         * As its pages tell.
         *
         * @param pages address of them
         */
        static Server at(String pages) {
            JsonNode where = new Api(URI.create(pages)).get("/control/where");
            return new Server(
                    where.get("sftpPort").asInt(), where.get("hostKey").asString());
        }
    }

    /** @return the destination */
    public long connect(Server server) {
        return Scenario.id(editor.post("/api/destinations", destination(server, "slip-7713")));
    }

    /**
     * The connection.
     *
     * @param password blank for the one that is kept already
     */
    public static Map<String, Object> destination(Server server, String password) {
        return Map.of(
                "name",
                "Island guide",
                "profile",
                "file-drop",
                "limitsOff",
                false,
                "signIn",
                "password",
                "settings",
                Map.of(
                        "base_address",
                        "sftp://127.0.0.1:" + server.sftpPort(),
                        "user",
                        "halvorn",
                        "password",
                        password,
                        "host_key",
                        server.hostKey()));
    }

    /** Everybody in the audience, as the guide's own program wants it. */
    public static FileLayout everybody() {
        return new FileLayout(
                LIST,
                true,
                new FileContent.Everybody(),
                "from-halvorn",
                new FileName("islanders-{date}-{run}"),
                ZONE,
                new FileForm.Csv(
                        ";",
                        FileForm.Quoting.WHERE_NEEDED,
                        FileForm.LineEnd.CRLF,
                        FileForm.Encoding.UTF_8,
                        true,
                        ", ",
                        Optional.empty()),
                false,
                "Member",
                List.of(
                        FileColumn.of("Member", FieldKind.TEXT),
                        FileColumn.of("E-mail", FieldKind.EMAIL),
                        FileColumn.of("First name", FieldKind.TEXT),
                        FileColumn.of("Home port", FieldKind.TEXT),
                        FileColumn.of("Crossings", FieldKind.INTEGER)));
    }

    /**
     * The latest three bookings of each member beside the name, as JSON Lines, as somebody chooses it when the audience is sent.
     *
     * @return the route
     */
    public long latestTrips(String name, long audience, long destination) {
        long bookings = 0;
        for (JsonNode set : editor.get("/api/events")) {
            bookings = set.get("name").asString().equals("Bookings")
                    ? set.get("id").asLong()
                    : bookings;
        }
        long route = Scenario.id(editor.post(
                "/api/audiences/" + audience + "/routes",
                Map.of(
                        "name",
                        name,
                        "destinationId",
                        destination,
                        "file",
                        Map.of("name", "latest-trips", "jsonLines", true, "changesOnly", false, "key", "Member"),
                        "basis",
                        Map.of("kind", "consent", "purpose", "the newsletter", "column", "may_newsletter_email"),
                        "columns",
                        List.of(
                                new FirstDraft.SentColumn("person_id", "Member"),
                                new FirstDraft.SentColumn("given_name", "First name")),
                        "rows",
                        List.of(Map.of(
                                "events",
                                bookings,
                                "field",
                                "Latest trips",
                                "parts",
                                List.of(
                                        new DatasetLookUp.RowPart("departs_at", "departs"),
                                        new DatasetLookUp.RowPart("line", "line")),
                                "only",
                                List.of(),
                                "pick",
                                new DatasetLookUp.Pick("departs_at", true, 365, 3))),
                        "country",
                        "NO",
                        "zone",
                        ZONE)));
        RouteSpec draft = editor.read("/api/routes/" + route, "spec", RouteSpec.class)
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
        editor.post(
                "/api/routes/" + route + "/versions", Map.of("name", name, "basedOn", 1, "note", "", "spec", draft));
        editor.post("/api/routes/" + route + "/in-service", Map.of("version", 2));
        return route;
    }

    public void layOut(long destination, FileLayout layout) {
        editor.put("/api/destinations/" + destination + "/files", layout);
    }

    /** @return the route */
    public long route(String name, long audience, long destination, FileLayout layout) {
        layOut(destination, layout);
        long dataset = editor.post("/api/audiences/" + audience + "/dataset", Map.of())
                .get("id")
                .asLong();
        RouteSpec spec = RouteSpec.of(
                        Mode.KEEP_EQUAL,
                        List.of("Member"),
                        List.of(
                                Scenario.from("Member", "person_id"),
                                Scenario.from("E-mail", "email", new NormaliseEmail(false))
                                        .ifEmpty(IfEmpty.HOLD_RECORD),
                                Scenario.from("First name", "given_name"),
                                Scenario.from("Home port", "home_port"),
                                Scenario.from("Crossings", "crossings_90d").orDefault("0")),
                        new Basis.Consent("the newsletter", "may_newsletter_email"),
                        Guards.defaults(),
                        new Schedule.Daily(LocalTime.of(5, 15), ZONE))
                .leavers(new Leavers.Delete())
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
        return scenario.route(name, dataset, destination, layout.name(), spec);
    }
}

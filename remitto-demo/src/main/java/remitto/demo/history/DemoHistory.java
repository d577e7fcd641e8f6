package remitto.demo.history;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import remitto.server.departure.Departures;
import tools.jackson.databind.JsonNode;

/**
 * Lives through a week of Halvorn Ferries: the real server does the work, with its clock set back. Nothing the
 * demo shows is written in by hand.
 */
public final class DemoHistory {
    private static final Logger LOG = LoggerFactory.getLogger(DemoHistory.class);
    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final String PASSWORD = "ferry-demo-2026";
    /** Passes that are not among those which lapsed; numbers of passes count from 20,000. */
    private static final String USED = " and substr(pass_number, 3)::int % 8 <> 3";

    private final RunningServer server;
    private final Connection warehouse;
    private final Desks desks;
    private final Desk desk;
    private final Api admin;
    private final Api editor;
    private boolean started;

    /** @param warehouse a connection of the warehouse's owner */
    public DemoHistory(RunningServer server, Connection warehouse, Desks desks) {
        this.server = server;
        this.warehouse = warehouse;
        this.desks = desks;
        this.desk = desks.purser();
        this.admin = new Api(server.address());
        this.editor = new Api(server.address());
    }

    /** Addresses of the support desk, of the mailing tool, of where files are dropped, and of the ticket shop. */
    public record Helpers(String gangway, String postbag, String slipway, String shop) {}

    public void live(Scenario.Places places, MoreRoutes.Outlets outlets, Helpers helpers) throws SQLException {
        Instant now = Instant.now();
        LocalDate today = now.atZone(OSLO).toLocalDate();
        at(today.minusDays(7).atTime(9, 4).atZone(OSLO).toInstant());
        admin.signIn("admin@halvorn.example", PASSWORD);
        addUsers();
        editor.signIn("edda@halvorn.example", PASSWORD);
        Scenario scenario = new Scenario(editor);
        Scenario.Ids ids = scenario.setUp(places, true);
        MoreRoutes.Ids more = new MoreRoutes(editor, scenario).setUp(ids, outlets);
        long tickets = new TicketRoute(editor, admin, scenario).setUp(ids);
        long helped = new SupportRoute(editor, scenario).setUp(ids, helpers.gangway());
        LetIn letIn = new LetIn(admin);
        letIn.all();
        LOG.info("First manifests");
        for (long route : List.of(
                ids.passes(),
                ids.freight(),
                ids.churn(),
                more.contacts(),
                more.lapsed(),
                more.notices(),
                tickets,
                helped)) {
            prepareAndSend(route);
        }
        new DeskWork(desk).write(today);
        for (int day = 6; day >= 0; day--) {
            LocalDate date = today.minusDays(day);
            LOG.info("Day {} of 7: {}", 7 - day, date);
            warehouseMovesOn(date);
            if (day == 1) {
                desks.foghorn().faults("[{\"fault\":\"drop-after\",\"on\":\"say\",\"next\":1}]");
            }
            departures(date, now);
            if (day == 3) {
                deskEdits(date);
            }
            if (day == 2) {
                takeBackTheScores(date, ids.churn());
            }
        }
        deskTidiesUp(now);
        badLoad(ids.freight(), now);
        takeStock(ids.purser());
        SecondThoughts second = new SecondThoughts(editor);
        second.changeAProfile();
        PeopleSetUp people = new PeopleSetUp(editor, scenario);
        Map<String, Long> described = people.setUp(ids.source());
        people.join("COMPANY");
        people.join();
        people.peopleDataset();
        people.writeLinksBack(places, letIn);
        AudienceSetUp audiences = new AudienceSetUp(editor, scenario);
        AudienceSetUp.Ids audience = audiences.setUp(ids.source(), described);
        long advertised = audiences.advertise(
                "Commuters, advertising", audience.audiences().get("Frequent crossers"), more.lamplight(), "commuters");
        prepareAndSend(advertised);
        long written = audiences.write(helpers.postbag() + "/north");
        letIn.all();
        prepareAndSend(written);
        audiences.limitMessages(5, 7, written);
        HandOver guide = new HandOver(editor, scenario);
        long drop = guide.connect(HandOver.Server.at(helpers.slipway()));
        letIn.all();
        long members = audience.audiences().get("Frequent crossers");
        long handedOver = guide.route("Islanders for the guide", members, drop, HandOver.everybody());
        prepareAndSend(handedOver);
        prepareAndSend(guide.latestTrips("Latest trips for the guide", members, drop));
        for (int minutes : new int[] {15, 8, 3}) {
            at(now.minus(Duration.ofMinutes(minutes)));
            run("insert into ferry.pass_trips select pass_number, 1, timestamptz '"
                    + server.clock().instant() + "'"
                    + " from ferry.pass_holders where status = 'active' and hashtext(pass_number || " + minutes
                    + ") % 5 = 0" + (minutes == 8 ? "" : USED));
            audiences.refresh();
        }
        audiences.daily();
        prepareAndSend(advertised);
        prepareAndSend(handedOver);
        second.order(ids.purser(), "email", List.of(ids.passes(), tickets, more.contacts(), ids.churn()));
        // Calls are signed with the time of now.
        at(Instant.now());
        new ShopSetUp(editor, scenario, helpers.shop()).setUp(destination("Postbag Mail"), now);
        server.bean(Departures.class).departDue();
        editor.awaitAll();
        desks.setClock(Optional.empty());
        afterwards();
    }

    private long destination(String name) {
        return editor.get("/api/destinations")
                .valueStream()
                .filter(one -> one.get("name").asString().equals(name))
                .findFirst()
                .orElseThrow()
                .get("id")
                .asLong();
    }

    private void prepareAndSend(long route) {
        long run = editor.post("/api/routes/" + route + "/runs", Map.of())
                .get("runId")
                .asLong();
        if (editor.await(run).get("state").asString().equals("READY")) {
            editor.post("/api/runs/" + run + "/send", Map.of());
            editor.await(run);
        }
    }

    /** The scores of the last run came from a model that was wrong; somebody takes them back. */
    private void takeBackTheScores(LocalDate date, long churn) {
        at(date.atTime(13, 5).atZone(OSLO).toInstant());
        long last = 0;
        for (JsonNode run : editor.get("/api/runs?routeId=" + churn).get("runs")) {
            long id = run.get("id").asLong();
            JsonNode outcomes = editor.get("/api/runs/" + id).get("outcomes");
            if (last == 0 && outcomes.path("ACKNOWLEDGED").asLong(0) > 0) {
                last = id;
            }
        }
        long undo = editor.post("/api/runs/" + last + "/undo", Map.of())
                .get("runId")
                .asLong();
        if (editor.await(undo).get("state").asString().equals("READY")) {
            editor.post("/api/runs/" + undo + "/send", Map.of());
            editor.await(undo);
        }
    }

    /** People at the desk add and delete records, and whoever runs the CRM makes a field smaller. */
    private void deskTidiesUp(Instant now) {
        at(now.minus(Duration.ofMinutes(80)));
        desk.add("contact", Map.of("external_ref", "DESK-1", "family_name", "Ottersen", "email", "lars@kai.example"));
        desk.add("contact", Map.of("external_ref", "DESK-2", "family_name", "Ottersen", "mobile", "+4798800142"));
        for (String number : List.of("P-201", "P-207")) {
            desk.find("contact", number).ifPresent(id -> desk.delete("contact", id));
        }
        desk.changeField("company", "name", "shrink", "23");
    }

    private void addUsers() {
        admin.post(
                "/api/users",
                Map.of("email", "edda@halvorn.example", "name", "Edda Lysne", "role", "EDITOR", "password", PASSWORD));
        admin.post(
                "/api/users",
                Map.of(
                        "email",
                        "oskar@halvorn.example",
                        "name",
                        "Oskar Ekdahl",
                        "role",
                        "APPROVER",
                        "password",
                        PASSWORD));
        admin.post(
                "/api/users",
                Map.of(
                        "email",
                        "vera@halvorn.example",
                        "name",
                        "Vera Isbister",
                        "role",
                        "VIEWER",
                        "password",
                        PASSWORD));
    }

    /** Time only goes forward: whatever was granted or promised for a moment stays in the future or the past. */
    private void at(Instant instant) {
        Instant now = server.clock().instant();
        if (!started || instant.isAfter(now)) {
            started = true;
            server.clock().set(instant);
            desks.setClock(Optional.of(instant));
        }
    }

    private void departures(LocalDate date, Instant now) {
        for (String time : List.of("06:00:05", "07:00:05", "08:30:05")) {
            Instant due =
                    date.atTime(java.time.LocalTime.parse(time)).atZone(OSLO).toInstant();
            if (due.isAfter(now)) {
                continue;
            }
            at(due);
            // A route waits for those it depends on, so the second look starts what waited in the first.
            for (int look = 0; look < 3; look++) {
                server.bean(Departures.class).departDue();
                editor.awaitAll();
            }
        }
    }

    private void warehouseMovesOn(LocalDate date) throws SQLException {
        String stamp = "'" + date + " 04:10:00+00'::timestamptz";
        int day = date.getDayOfMonth();
        run("update ferry.pass_holders set status = 'expired', updated_at = " + stamp
                + " where status = 'active' and hashtext(pass_number || " + day + ") % 90 = 0");
        run("update ferry.pass_holders set home_port = 'TAR', updated_at = " + stamp
                + " where hashtext(pass_number || 'p' || " + day + ") % 140 = 0");
        run("insert into ferry.pass_trips select pass_number, 1, " + stamp
                + " from ferry.pass_holders where status = 'active' and hashtext(pass_number || 't' || " + day
                + ") % 12 = 0" + USED);
        run("insert into ferry.pass_holders select 'P-' || (70000 + " + day + " * 100 + n), given_name, family_name,"
                + " 'ny.' || n || '.' || " + day
                + " || '@brygge.example', phone, country, birth_date, home_port, 'active',"
                + " 'yes', valid_until, " + stamp
                + " from (select *, row_number() over () as n from (select * from ferry.pass_holders"
                + " where phone is not null order by hashtext(pass_number || " + day
                + ") limit 9) as picked) as fresh");
        run("update ferry.freight_companies set credit_limit = credit_limit + 5000, updated_at = " + stamp
                + " where hashtext(vat_number || " + day + ") % 30 = 0");
        run("delete from ferry.pass_holders where hashtext(pass_number || 'gone' || " + day + ") % 700 = 0");
        run("insert into ferry.invoices select 900000 + " + day + " * 10 + row_number() over (), vat_number, date '"
                + date
                + "', 15500 + 250 * row_number() over (), 'NOK', 40 from (select vat_number"
                + " from ferry.freight_companies where vat_number <> '' order by hashtext(vat_number || " + day
                + ") limit 2)"
                + " as picked");
        run("update ferry.churn_scores set score = least(99, score + 7), scored_at = " + stamp
                + " where hashtext(customer_no || " + day + ") % 25 = 0");
    }

    private void deskEdits(LocalDate date) {
        at(date.atTime(11, 20).atZone(OSLO).toInstant());
        List<String> mobiles = List.of("+4798800142", "+4791230077", "+46701112233", "+4520112233");
        for (int i = 0; i < mobiles.size(); i++) {
            String mobile = mobiles.get(i);
            desk.find("contact", "P-2" + (1 + i) + "0")
                    .ifPresent(id -> desk.edit("contact", id, Map.of("mobile", mobile)));
        }
        desk.find("company", "Nordhavn").ifPresent(id -> desk.edit("company", id, Map.of("credit_limit", "12500")));
    }

    /** A load lost the VAT numbers of some companies; the guard stops the manifest somebody prepares after it. */
    private void badLoad(long freight, Instant now) throws SQLException {
        at(now.minus(Duration.ofMinutes(35)));
        run("update ferry.freight_companies set vat_number = '' where hashtext(name) % 9 = 0");
        // Something is left to approve.
        run("update ferry.freight_companies set credit_limit = credit_limit + 2500 where hashtext(name) % 7 = 3"
                + " and vat_number <> ''");
        editor.post("/api/routes/" + freight + "/runs", Map.of());
        editor.awaitAll();
    }

    private void takeStock(long purser) {
        long id = editor.post("/api/destinations/" + purser + "/objects/contact/stocktakes", Map.of())
                .get("id")
                .asLong();
        while (editor.get("/api/stocktakes/" + id).get("state").asString().equals("COUNTING")) {
            Thread.onSpinWait();
        }
    }

    private void afterwards() throws SQLException {
        run("update ferry.pass_holders set home_port = 'SAN', updated_at = now()"
                + " where hashtext(pass_number || 'today') % 180 = 0");
    }

    private void run(String sql) throws SQLException {
        try (Statement statement = warehouse.createStatement()) {
            statement.executeUpdate(sql);
        }
    }
}

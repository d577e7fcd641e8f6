package remitto.demo.history;

import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun.AlreadyThere;
import remitto.core.route.FirstRun.OlderRows;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.Trim;
import remitto.core.timetable.Schedule;

/** Pass holders as the helpers at the support desk see them; the desk is reached by its profile alone. */
public final class SupportRoute {
    private final Api api;
    private final Scenario scenario;

    public SupportRoute(Api api, Scenario scenario) {
        this.api = api;
        this.scenario = scenario;
    }

    /** @return the route, whose dataset is that of the pass holders */
    public long setUp(Scenario.Ids ids, String address) {
        long gangway = Scenario.id(api.post(
                "/api/destinations",
                Map.of(
                        "name",
                        "Gangway Support",
                        "profile",
                        "gangway-support",
                        "limitsOff",
                        false,
                        "settings",
                        Map.of("base_address", address, "pass", "gang-3301-halvorn"))));
        long passes = api.get("/api/routes/" + ids.passes()).get("datasetId").asLong();
        return scenario.route("Helped at the desk", passes, gangway, "user", spec());
    }

    private static RouteSpec spec() {
        return RouteSpec.of(
                        Mode.KEEP_EQUAL,
                        List.of("handle"),
                        List.of(
                                Scenario.from("handle", "pass_number", new Trim())
                                        .ifEmpty(IfEmpty.HOLD_RECORD),
                                Scenario.from("mail", "email", new Trim(), new LowerCase()),
                                Scenario.from("given", "given_name", new Trim()),
                                Scenario.from("family", "family_name", new Trim()),
                                Scenario.from("last_crossing", "last_crossing"),
                                Scenario.from("crossings", "crossings_90d")),
                        new Basis.Stated("Our contract with the holder: help with the pass"),
                        Guards.defaults(),
                        new Schedule.Daily(LocalTime.of(8, 30), "Europe/Oslo"))
                .leavers(new Leavers.Delete())
                .firstRun(AlreadyThere.ADOPT, OlderRows.SEND);
    }
}

package remitto.server.route;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.fieldrule.FieldRule;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.route.Waves;
import remitto.core.timetable.Schedule;
import remitto.server.archive.Archivable;
import remitto.server.archive.Archive;
import remitto.server.definition.DefinitionKind;
import remitto.server.definition.DefinitionPlan;
import remitto.server.platform.Problem;

/** Routes as files, with their rules and their timetable. */
@Component
class RouteFiles implements DefinitionKind<RouteFiles.RouteFile> {
    /** What a rule does that says nothing else. */
    private static final Map<String, String> USUAL_RULE = Map.of(
            "written", "always",
            "if_empty", "leave",
            "default_text", "",
            "if_unusable", "hold_value",
            "on_drift", "overwrite");

    private final Routes routes;
    private final RouteKeeping keeping;
    private final Archive archive;

    RouteFiles(Routes routes, RouteKeeping keeping, Archive archive) {
        this.routes = routes;
        this.keeping = keeping;
        this.archive = archive;
    }

    /**
     * A route.
     *
     * @param object of the destination that its records become
     * @param match destination fields by which a record is found, in order; the first is the key field
     * @param schedule when it departs
     * @param firstRun absent while nobody decided; such a version cannot be put in service
     * @param after routes that run before this one when both are due
     * @param joined of a route on people, what becomes of a retired person's record; absent for review
     */
    record RouteFile(
            String name,
            long dataset,
            long destination,
            String object,
            Mode mode,
            List<String> match,
            Basis basis,
            Guards guards,
            Schedule schedule,
            Leavers leavers,
            Optional<FirstRun> firstRun,
            Optional<Waves> waves,
            List<Long> after,
            Optional<RouteSpec.Joined> joined,
            List<FieldRule> rules) {
        RouteFile {
            match = List.copyOf(match);
            after = List.copyOf(after);
            rules = List.copyOf(rules);
        }

        RouteSpec spec() {
            return new RouteSpec(mode, match, rules, basis, guards, schedule, leavers, firstRun, waves, after, joined);
        }
    }

    @Override
    public Form<RouteFile> form() {
        return new Form<>("route", "routes", RouteFile.class, 100, true);
    }

    @Override
    public Map<String, Map<String, String>> usual() {
        return Map.of("rules", USUAL_RULE);
    }

    @Override
    public List<Kept<RouteFile>> all() {
        return routes.all().stream()
                .map(one -> new Kept<>(
                        Long.toString(one.id()),
                        one.name(),
                        file(one, one.spec()),
                        one.liveSpec().map(live -> file(one, live))))
                .toList();
    }

    private static RouteFile file(Routes.Route route, RouteSpec spec) {
        return new RouteFile(
                route.name(),
                route.datasetId(),
                route.destinationId(),
                route.object(),
                spec.mode(),
                spec.match(),
                spec.basis(),
                spec.guards(),
                spec.schedule(),
                spec.leavers(),
                spec.firstRun(),
                spec.waves(),
                spec.after(),
                spec.joined(),
                spec.rules());
    }

    @Override
    public String add(Change<RouteFile> change) {
        RouteFile file = change.content();
        return Long.toString(keeping.add(
                file.name(),
                new RouteBinder.RouteEnds(file.dataset(), file.destination(), file.object()),
                file.spec(),
                change.who()));
    }

    @Override
    public void change(String id, Change<RouteFile> change) {
        RouteFile file = change.content();
        Routes.Route now = routes.get(Long.parseLong(id));
        if (now.datasetId() != file.dataset()
                || now.destinationId() != file.destination()
                || !now.object().equals(file.object())) {
            throw Problem.conflict(
                    "A route stays between its dataset and its object of a destination, since all it knows"
                            + " is about these; make another route.");
        }
        keeping.save(now.id(), now.latestVersion(), file.name(), file.spec(), change.who(), change.note());
    }

    @Override
    public Optional<DefinitionPlan.EffectQuestion> effect(String id, RouteFile content) {
        return Optional.of(
                new DefinitionPlan.EffectQuestion("/api/routes/" + id + "/what-if", Map.of("spec", content.spec())));
    }

    @Override
    public void putInService(String id, Change<RouteFile> change) {
        Routes.Route now = routes.get(Long.parseLong(id));
        if (!now.liveVersion().filter(live -> live == now.latestVersion()).isPresent()) {
            keeping.putInService(now.id(), now.latestVersion(), change.who());
        }
    }

    @Override
    public void remove(String id, String who) {
        archive.archive(Archivable.ROUTE, id, who);
    }
}

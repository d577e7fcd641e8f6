package remitto.server.route;

import java.security.Principal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.dataset.Column;
import remitto.core.dataset.Columns;
import remitto.core.fieldrule.Direction;
import remitto.core.route.RouteFault;
import remitto.core.route.RouteSpec;
import remitto.core.route.RuleProposal;
import remitto.server.platform.VersionNote;
import remitto.server.platform.VersionRequest;

@RestController
@RequestMapping("/api/routes")
class RouteController {
    private final Routes routes;
    private final RouteBinder binder;
    private final RouteLaying laying;
    private final RuleSentences sentences;
    private final FixedOverDiffering fixedOverDiffering;
    private final RouteDifferences differences;
    private final List<RouteAdvice> advice;
    private final RouteKeeping keeping;

    RouteController(
            Routes routes,
            RouteBinder binder,
            RouteLaying laying,
            RuleSentences sentences,
            FixedOverDiffering fixedOverDiffering,
            RouteDifferences differences,
            List<RouteAdvice> advice,
            RouteKeeping keeping) {
        this.routes = routes;
        this.binder = binder;
        this.laying = laying;
        this.sentences = sentences;
        this.fixedOverDiffering = fixedOverDiffering;
        this.differences = differences;
        this.advice = advice;
        this.keeping = keeping;
    }

    /** A route to be created from its parts. */
    record NewRoute(String name, RouteBinder.RouteEnds ends, RouteSpec spec) {}

    /** A version of a route to be saved. */
    record RouteDraft(String name, int basedOn, String note, RouteSpec spec) {}

    /**
     * A route to be checked.
     *
     * @param routeId the route the rules belong to; 0 for one that was never saved
     */
    record RouteCheck(long routeId, RouteBinder.RouteEnds ends, RouteSpec spec) {}

    /** What a rule says, and who decides by it about a field that both sides edit. */
    record RuleWords(String sentence, Direction direction) {}

    /**
     * What is wrong with a route, and the words of its rules.
     *
     * @param rules in words, by field
     */
    record Checked(List<RouteFault> faults, Map<String, RuleWords> rules) {}

    /**
     * A dataset and an object to propose rules for.
     *
     * @param country ISO 3166 code for phone numbers that neither name one nor have a column that does; blank when it is not known
     * @param columns of a dataset that is not there yet; absent for those of the dataset
     */
    record ProposalRequest(RouteBinder.RouteEnds ends, String country, String zone, Optional<List<Column>> columns) {}

    /** All routes with their versions and when they depart next. */
    @GetMapping
    List<Routes.Route> routes() {
        return routes.all();
    }

    /** A route with its version in service and its latest one. */
    @GetMapping("/{id}")
    Routes.Route route(@PathVariable long id) {
        return routes.get(id);
    }

    /** The versions of a route, the newest first. */
    @GetMapping("/{id}/versions")
    List<VersionNote> routeVersions(@PathVariable long id) {
        return routes.versions(id);
    }

    /** A version of a route. */
    @GetMapping("/{id}/versions/{number}")
    RouteSpec routeVersion(@PathVariable long id, @PathVariable int number) {
        return routes.version(id, number);
    }

    /** What a version says differently than another. */
    @GetMapping("/{id}/versions/{number}/differences/{other}")
    RouteDifferences.Differences routeDifferences(
            @PathVariable long id, @PathVariable int number, @PathVariable int other) {
        return differences.between(routes.version(id, number), routes.version(id, other));
    }

    /** What unsaved rules say differently than the latest version. */
    @PostMapping("/{id}/differences")
    RouteDifferences.Differences unsavedDifferences(@PathVariable long id, @RequestBody RouteSpec unsaved) {
        return differences.between(routes.get(id).spec(), unsaved);
    }

    /** Creates a route with a first version, which is not in service. */
    @PostMapping
    Routes.Route addRoute(@RequestBody NewRoute wanted, Principal who) {
        return routes.get(keeping.add(wanted.name(), wanted.ends(), wanted.spec(), who.getName()));
    }

    /** Saves a version of a route. 409 when somebody saved another since the one it is based on. */
    @PostMapping("/{id}/versions")
    Routes.Route saveRoute(@PathVariable long id, @RequestBody RouteDraft draft, Principal who) {
        keeping.save(id, draft.basedOn(), draft.name(), draft.spec(), who.getName(), draft.note());
        return routes.get(id);
    }

    /** Puts a saved version in service; refused while anything blocking is wrong with it. */
    @PostMapping("/{id}/in-service")
    Routes.Route putRouteInService(@PathVariable long id, @RequestBody VersionRequest wanted, Principal who) {
        keeping.putInService(id, wanted.version(), who.getName());
        return routes.get(id);
    }

    /** Everything that is wrong with unsaved rules, blocking or not, and what each says in words. */
    @PostMapping("/check")
    Checked checkRoute(@RequestBody RouteCheck wanted) {
        int version = binder.usableDatasetVersion(wanted.ends().datasetId());
        RouteBinder.Binding binding = binder.bind(wanted.routeId(), "", wanted.ends(), version, wanted.spec());
        List<RouteFault> faults = new ArrayList<>(binding.faults());
        faults.addAll(
                fixedOverDiffering.of(wanted.ends().datasetId(), binding.bound().dataset(), wanted.spec()));
        advice.forEach(one -> faults.addAll(one.about(wanted.routeId(), wanted.ends())));
        return new Checked(faults, words(wanted.spec()));
    }

    /** What the rules of the latest version say, by field, for whoever may only look. */
    @GetMapping("/{id}/words")
    Map<String, RuleWords> ruleWords(@PathVariable long id) {
        return words(routes.get(id).spec());
    }

    private Map<String, RuleWords> words(RouteSpec spec) {
        Map<String, String> sentenceOf = sentences.of(spec);
        Map<String, RuleWords> rules = new LinkedHashMap<>();
        spec.rules()
                .forEach(rule -> rules.put(
                        rule.field(), new RuleWords(sentenceOf.getOrDefault(rule.field(), ""), rule.direction())));
        return rules;
    }

    /** Proposes a rule for every column whose name fits a field. */
    @PostMapping("/propose")
    RuleProposal.Proposal proposeRules(@RequestBody ProposalRequest request) {
        return request.columns()
                .map(columns -> laying.propose(new Columns(columns), request.ends(), request.country(), request.zone()))
                .orElseGet(() -> laying.propose(request.ends(), request.country(), request.zone()));
    }

    /** A draft with rules by names that fit. */
    @PostMapping("/laid")
    Routes.Route layRoute(@RequestBody RouteLaying.NewRouteDefinition request, Principal who) {
        RuleProposal.Proposal proposal = laying.propose(request.ends(), request.country(), request.zone());
        return routes.get(laying.lay(request, draft -> draft.of(proposal.rules()), who.getName()));
    }
}

package remitto.server.people.trial;

import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.identity.compare.Levels;
import remitto.core.identity.normalise.Nicknames;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.survivorship.KeepRule;
import remitto.core.identity.survivorship.Survivorship;
import remitto.server.people.EntityType;
import remitto.server.people.rule.MatchRuleKeeping;
import remitto.server.people.rule.PeopleRuleVersions;
import remitto.server.people.rule.PeopleRules;
import remitto.server.people.rule.PeopleSettings;
import remitto.server.people.source.PeopleSources;
import remitto.server.platform.VersionNote;
import remitto.server.platform.VersionRequest;

/** The rules that decide who is one person, their versions, and what others would do. */
@RestController
@RequestMapping("/api/people/rules")
class PeopleRulesController {
    private final PeopleRuleVersions ruleVersions;
    private final PeopleSettings settings;
    private final PeopleSources sources;
    private final PeopleEffects effects;
    private final PeopleLearning learning;
    private final MatchRuleKeeping keeping;

    PeopleRulesController(
            PeopleRuleVersions ruleVersions,
            PeopleSettings settings,
            PeopleSources sources,
            PeopleEffects effects,
            PeopleLearning learning,
            MatchRuleKeeping keeping) {
        this.ruleVersions = ruleVersions;
        this.settings = settings;
        this.sources = sources;
        this.effects = effects;
        this.learning = learning;
        this.keeping = keeping;
    }

    /**
     * The match rules with what they are measured by.
     *
     * @param number of the latest version, 0 for what ships
     * @param liveNumber of the one in service
     * @param attributes that rules can speak of
     * @param usualLevels how each is compared unless the rules say otherwise
     * @param usualKept how each value is kept unless the rules say otherwise
     * @param estimatedAt when weights were estimated, from {@code estimatedFrom} records
     */
    record PeopleRulesView(
            int number,
            int liveNumber,
            PeopleRules rules,
            List<VersionNote> versions,
            List<Attribute> attributes,
            List<Levels> usualLevels,
            Map<String, KeepRule> usualKept,
            List<Nicknames.Nickname> shippedNicknames,
            Optional<Instant> estimatedAt,
            int estimatedFrom) {}

    /**
     * A version of the match rules to be saved.
     *
     * @param basedOn version that was edited
     */
    record PeopleRulesDraft(int basedOn, String note, PeopleRules rules) {}

    /**
     * Rules to be compared with those of a version.
     *
     * @param number of the version, 0 for what ships
     */
    record RulesToCompare(int number, PeopleRules second) {}

    /**
     * The match rules in service and the latest ones.
     *
     * @param entityType people or companies
     */
    @GetMapping
    PeopleRulesView matchRules(@RequestParam(defaultValue = "PERSON") EntityType entityType) {
        PeopleRuleVersions.Numbered latest = ruleVersions.latest(entityType);
        PeopleSettings.Setting setting = settings.of(entityType);
        List<Attribute> attributes = sources.attributes(entityType);
        Map<String, KeepRule> kept = new TreeMap<>();
        attributes.forEach(one -> kept.put(one.name(), Survivorship.usual(one.kind())));
        return new PeopleRulesView(
                latest.number(),
                setting.liveRules(),
                latest.rules(),
                ruleVersions.versions(entityType),
                attributes,
                attributes.stream().map(Levels::usual).toList(),
                kept,
                Nicknames.shipped().pairs(),
                setting.estimatedAt(),
                setting.weights().map(one -> one.records()).orElse(0));
    }

    /**
     * A version of the match rules.
     *
     * @param number 0 for what ships
     * @param entityType people or companies
     */
    @GetMapping("/versions/{number}")
    PeopleRules matchRulesVersion(
            @PathVariable int number, @RequestParam(defaultValue = "PERSON") EntityType entityType) {
        return ruleVersions.version(entityType, number).rules();
    }

    /**
     * Saves a version; runs go by it only once it is in service.
     *
     * @param entityType people or companies
     */
    @PostMapping("/versions")
    PeopleRulesView saveMatchRules(
            @RequestParam(defaultValue = "PERSON") EntityType entityType,
            @RequestBody PeopleRulesDraft draft,
            Principal who) {
        keeping.save(entityType, draft.basedOn(), draft.rules(), who.getName(), draft.note());
        return matchRules(entityType);
    }

    /**
     * The next run goes by it; nothing is joined or split before.
     *
     * @param entityType people or companies
     */
    @PostMapping("/in-service")
    PeopleRulesView putMatchRulesInService(
            @RequestParam(defaultValue = "PERSON") EntityType entityType,
            @RequestBody VersionRequest request,
            Principal who) {
        keeping.putInService(entityType, request.version(), who.getName());
        return matchRules(entityType);
    }

    /**
     * What unsaved rules would join and keep apart beside those of a version; nothing is changed.
     *
     * @param entityType people or companies
     */
    @PostMapping("/effect")
    PeopleEffects.RulesEffect matchRulesEffect(
            @RequestParam(defaultValue = "PERSON") EntityType entityType, @RequestBody RulesToCompare request) {
        return effects.compare(
                entityType, ruleVersions.version(entityType, request.number()).rules(), request.second());
    }

    /**
     * Weights as people's decisions about pairs would have them; nothing is changed.
     *
     * @param entityType people or companies
     */
    @GetMapping("/learned")
    PeopleLearning.LearnedWeights learnedWeights(@RequestParam(defaultValue = "PERSON") EntityType entityType) {
        return learning.learned(entityType);
    }
}

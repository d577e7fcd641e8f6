package remitto.server.people.trial;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import remitto.core.identity.compare.Comparer;
import remitto.core.identity.evidence.Calibration;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.CommonValues;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.ResolutionRules;
import remitto.server.people.EntityType;
import remitto.server.people.resolution.Corrections;
import remitto.server.people.rule.PeopleRuleVersions;
import remitto.server.people.rule.PeopleRules;
import remitto.server.people.rule.PeopleSettings;
import remitto.server.people.source.PeopleSources;
import remitto.server.platform.Problem;

/** What people's decisions about pairs say of the weights. */
@Component
class PeopleLearning {
    private final PeopleEffects effects;
    private final PeopleSources sources;
    private final PeopleRuleVersions ruleVersions;
    private final PeopleSettings settings;
    private final Corrections corrections;

    PeopleLearning(
            PeopleEffects effects,
            PeopleSources sources,
            PeopleRuleVersions ruleVersions,
            PeopleSettings settings,
            Corrections corrections) {
        this.effects = effects;
        this.sources = sources;
        this.ruleVersions = ruleVersions;
        this.settings = settings;
        this.corrections = corrections;
    }

    /**
     * Weights that follow from decisions about pairs.
     *
     * @param decided pairs that were learned from
     * @param fixed weights to set by hand
     */
    record LearnedWeights(int decided, List<Weights.FixedWeight> fixed) {}

    /**
     * Nothing is changed by it.
     *
     * @throws Problem if nobody decided anything, or no weights were estimated yet
     */
    LearnedWeights learned(EntityType entityType) {
        List<Attribute> attributes = sources.attributes(entityType);
        PeopleRules rules = ruleVersions.inService(entityType).rules();
        PeopleSettings.Setting setting = settings.of(entityType);
        Weights estimated = setting.weights()
                .filter(weights -> setting.weightsFor().equals(rules.weighed(attributes)))
                .orElseThrow(() -> Problem.conflict(
                        "The weights of the rules in service were not estimated yet. Run matching first."));
        ResolutionRules set = rules.resolutionRules(attributes);
        RecordTable all = effects.table(entityType, attributes);
        RecordTable table =
                all.without(CommonValues.find(all, set.rules().limits().share(), set.kept()));
        List<Calibration.DecidedPair> decided = decided(table, set, estimated);
        if (decided.isEmpty()) {
            throw Problem.conflict("No pair of these records has been decided yet.");
        }
        return new LearnedWeights(decided.size(), Calibration.of(estimated, decided));
    }

    private List<Calibration.DecidedPair> decided(RecordTable table, ResolutionRules set, Weights estimated) {
        Map<RecordRef, Integer> numbers = new HashMap<>();
        for (int record = 0; record < table.size(); record++) {
            numbers.put(table.ref(record), record);
        }
        Comparer comparer = new Comparer(table, estimated.levels(), set.nicknames());
        Scorer scorer = new Scorer(table, estimated, set.nicknames());
        List<Calibration.DecidedPair> decided = new ArrayList<>();
        for (Corrections.Correction correction : corrections.all()) {
            Integer one = numbers.get(correction.one().ref());
            Integer other = numbers.get(correction.other().ref());
            if (one != null && other != null) {
                byte[] pattern = new byte[estimated.levels().size()];
                comparer.compare(one, other, pattern);
                decided.add(new Calibration.DecidedPair(pattern, scorer.weigh(one, other), correction.together()));
            }
        }
        return decided;
    }
}

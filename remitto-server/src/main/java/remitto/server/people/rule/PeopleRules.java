package remitto.server.people.rule;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import remitto.core.identity.compare.Levels;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.normalise.Nicknames;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.CommonValues;
import remitto.core.identity.rule.MatchCondition;
import remitto.core.identity.rule.MatchRule;
import remitto.core.identity.rule.MatchRules;
import remitto.core.identity.rule.ResolutionRules;
import remitto.core.identity.survivorship.KeepRule;
import remitto.core.identity.survivorship.Survivorship;
import remitto.server.platform.Problem;

/**
 * What a version of the rules says.
 *
 * @param join rules that join whatever the evidence
 * @param never rules that keep apart
 * @param levels of attributes that are compared otherwise than usual for their kind
 * @param notWeighed attributes that are no evidence
 * @param nicknames beside those that ship
 * @param notNicknames short forms of those that ship which count no more
 * @param kept values that are used though many records share them
 * @param survivorship by attribute; what is missing is kept as usual for its kind
 * @param withoutTag whether what follows a plus sign in an e-mail address is dropped
 */
public record PeopleRules(
        List<MatchRule> join,
        List<MatchRule> never,
        List<Levels> levels,
        List<String> notWeighed,
        MatchRules.Thresholds thresholds,
        MatchRules.GroupLimits limits,
        List<Weights.FixedWeight> fixed,
        List<Nicknames.Nickname> nicknames,
        List<String> notNicknames,
        List<KeptCommon> kept,
        Map<String, KeepRule> survivorship,
        boolean withoutTag) {

    /** A value, as it is normalised, that many records share and that counts all the same. */
    public record KeptCommon(String attribute, String value) {}

    /** What ships. */
    public static PeopleRules usual(List<Attribute> attributes) {
        MatchRules usual = MatchRules.usual(attributes);
        Map<String, KeepRule> survivorship = new TreeMap<>();
        return new PeopleRules(
                usual.join(),
                usual.never(),
                List.of(),
                List.of(),
                usual.thresholds(),
                usual.limits(),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                survivorship,
                true);
    }

    public ResolutionRules resolutionRules(List<Attribute> attributes) {
        MatchRules usual = MatchRules.usual(attributes);
        Map<String, Levels> own = new TreeMap<>();
        levels.forEach(one -> own.put(one.attribute(), one));
        List<Levels> weighed = new ArrayList<>();
        for (Attribute attribute : attributes) {
            boolean evidence = attribute.kind().isEvidence() || own.containsKey(attribute.name());
            if (evidence && !notWeighed.contains(attribute.name())) {
                weighed.add(own.getOrDefault(attribute.name(), Levels.usual(attribute)));
            }
        }
        MatchRules rules =
                new MatchRules(weighed, join, never, MatchRules.keys(usual.keys(), join), thresholds, limits, fixed);
        Set<CommonValues.Common> common = kept.stream()
                .map(one -> new CommonValues.Common(one.attribute(), one.value(), 0, ""))
                .collect(Collectors.toSet());
        return new ResolutionRules(
                rules, Nicknames.shipped().without(notNicknames).with(nicknames), common);
    }

    public Survivorship keeping() {
        return new Survivorship(survivorship);
    }

    /**
     * Attributes that are weighed and how, and what thresholds are to come to, in one text; weights are only good for what they
     * were estimated for.
     */
    public String weighed(List<Attribute> attributes) {
        return attributes + " " + resolutionRules(attributes).rules().levels()
                + thresholds.aim().map(aim -> " " + aim + fixed + join + never).orElse("");
    }

    /** @throws Problem naming an attribute that no dataset is tied to, or a rule that says nothing */
    public void check(List<Attribute> attributes) {
        List<String> faults = new ArrayList<>(limits.faults());
        thresholds.aim().ifPresent(aim -> faults.addAll(aim.faults()));
        if (!faults.isEmpty()) {
            throw Problem.invalid(String.join(" ", faults));
        }
        Set<String> names = attributes.stream().map(Attribute::name).collect(Collectors.toSet());
        List<MatchRule> rules = new ArrayList<>(join);
        rules.addAll(never);
        rules.forEach(rule -> rule.conditions().stream()
                .map(MatchCondition::attribute)
                .filter(name -> !names.contains(name))
                .findFirst()
                .ifPresent(name -> {
                    throw Problem.invalid(
                            "The rule \"" + rule.words() + "\" speaks of " + name + ", which no dataset provides.");
                }));
        join.stream()
                .filter(rule -> rule.conditions().stream().noneMatch(MatchCondition::agrees))
                .findFirst()
                .ifPresent(rule -> {
                    throw Problem.invalid(
                            "The rule \"" + rule.words()
                                    + "\" would match records that have nothing in common. Add a condition they must agree on.");
                });
        Set<String> seen = new HashSet<>();
        for (Levels one : levels) {
            if (one.best().isEmpty() || !seen.add(one.attribute())) {
                throw Problem.invalid(
                        "Define once, with at least one comparison, how " + one.attribute() + " is compared.");
            }
        }
        if (resolutionRules(attributes).rules().levels().isEmpty() && join.isEmpty()) {
            throw Problem.invalid("No records could match: use an attribute as evidence or add a match rule.");
        }
        String circle = keeping().circle();
        if (!circle.isEmpty()) {
            throw Problem.invalid("Which " + circle + " is kept depends on itself. Remove the circular reference.");
        }
        survivorship.forEach((attribute, rule) -> {
            if (!rule.sameRecordAs().isEmpty() && !names.contains(rule.sameRecordAs())) {
                throw Problem.invalid("Which " + attribute + " is kept depends on " + rule.sameRecordAs()
                        + ", which no dataset provides.");
            }
        });
    }
}

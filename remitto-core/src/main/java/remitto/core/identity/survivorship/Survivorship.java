package remitto.core.identity.survivorship;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.identity.record.Attribute;
import remitto.core.shaper.PhoneType;

/** Which value of each attribute a person keeps. What no rule is for is kept as usual for its kind. */
public record Survivorship(Map<String, KeepRule> rules) {
    public Survivorship {
        rules = Map.copyOf(rules);
    }

    /**
     * By attribute, in the order of the candidates; an attribute that nothing is kept of is missing.
     *
     * @param candidates by attribute
     */
    public Map<Attribute, Keep.Kept> kept(Map<Attribute, List<Candidate>> candidates) {
        Map<String, Optional<Keep.Kept>> known = new LinkedHashMap<>();
        Map<String, Attribute> attributes = new LinkedHashMap<>();
        candidates.keySet().forEach(one -> attributes.put(one.name(), one));
        Map<Attribute, Keep.Kept> kept = new LinkedHashMap<>();
        candidates.keySet().forEach(attribute -> find(attribute, attributes, candidates, known)
                .ifPresent(one -> kept.put(attribute, one)));
        return kept;
    }

    private Optional<Keep.Kept> find(
            Attribute attribute,
            Map<String, Attribute> attributes,
            Map<Attribute, List<Candidate>> candidates,
            Map<String, Optional<Keep.Kept>> known) {
        Optional<Keep.Kept> before = known.get(attribute.name());
        if (before != null) {
            return before;
        }
        KeepRule rule = rule(attribute);
        Attribute leader = attributes.get(rule.sameRecordAs());
        List<Candidate> all = candidates.get(attribute);
        List<Candidate> own = attribute.kind() == Attribute.Kind.PHONE
                ? rule.phone().map(phone -> phone.among(all)).orElse(all)
                : all;
        Optional<Keep.Kept> kept = leader == null || leader.equals(attribute)
                ? rule.how().from(own, rule.verifiedFirst())
                : find(leader, attributes, candidates, known)
                        .map(one -> beside(one, own, rule.sameRecordAs()))
                        .orElseGet(() -> rule.how().from(own, rule.verifiedFirst()));
        kept = kept.map(one -> own.size() == all.size() ? one : ofType(one));
        known.put(attribute.name(), kept);
        return kept;
    }

    private static Keep.Kept ofType(Keep.Kept one) {
        return new Keep.Kept(
                one.candidate(), PhoneType.of(one.candidate().normalised()).words() + ", " + one.reason());
    }

    private static Optional<Keep.Kept> beside(Keep.Kept leader, List<Candidate> own, String name) {
        return own.stream()
                .filter(one -> one.ref().equals(leader.candidate().ref()))
                .findFirst()
                .map(one -> new Keep.Kept(one, "from the record that " + name.replace('_', ' ') + " is from"));
    }

    public KeepRule rule(Attribute attribute) {
        return rules.getOrDefault(attribute.name(), usual(attribute.kind()));
    }

    /** What ships; our choice. */
    public static KeepRule usual(Attribute.Kind kind) {
        return KeepRule.of(
                switch (kind) {
                    case GIVEN_NAME, FULL_NAME -> Keep.MOST_COMPLETE;
                    case EMAIL, PHONE, ADDRESS, POSTCODE, TOWN, CONSENT, DOMAIN -> Keep.NEWEST;
                    case FAMILY_NAME, COMPANY -> Keep.SOURCE_ORDER;
                    case BIRTH_DATE, IDENTIFIER, TEXT, VERBATIM, LIST, NUMBER -> Keep.MOST_FREQUENT;
                });
    }

    /** The attributes that wait for each other in a circle, in words; blank when there are none. */
    public String circle() {
        for (String start : rules.keySet()) {
            String at = start;
            for (int steps = 0; steps <= rules.size() && rules.containsKey(at); steps++) {
                at = rules.get(at).sameRecordAs();
                if (at.equals(start)) {
                    return start.replace('_', ' ');
                }
            }
        }
        return "";
    }
}

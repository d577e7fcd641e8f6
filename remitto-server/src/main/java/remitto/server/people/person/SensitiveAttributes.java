package remitto.server.people.person;

import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;
import remitto.server.masking.PersonalValues;
import remitto.server.people.EntityType;
import remitto.server.people.resolution.KeptValues;

/** Attributes that come from sensitive columns, and what the current user is shown of them. */
public final class SensitiveAttributes {
    private final Set<String> names;
    private final PersonalValues values;

    private SensitiveAttributes(Set<String> names, PersonalValues values) {
        this.names = names;
        this.values = values;
    }

    /** Finds out which they are now. */
    @Component
    public static class Finder {
        private final PersonFacts facts;
        private final PersonalValues values;

        Finder(PersonFacts facts, PersonalValues values) {
            this.facts = facts;
            this.values = values;
        }

        public SensitiveAttributes of(EntityType entityType) {
            Set<String> names = new HashSet<>();
            facts.kept(entityType).stream().filter(PersonFacts.Kept::sensitive).forEach(one -> names.add(one.name()));
            return new SensitiveAttributes(names, values);
        }
    }

    public String shown(String attribute, String value) {
        return names.contains(attribute) ? values.sensitive(value) : value;
    }

    public List<KeptValues.KeptValue> kept(List<KeptValues.KeptValue> kept) {
        return kept.stream()
                .map(one -> one.shown(shown(one.attribute(), one.value()), shown(one.attribute(), one.normalised())))
                .toList();
    }

    People.PersonRecord record(People.PersonRecord record) {
        Map<String, String> cells = new LinkedHashMap<>();
        record.cells().forEach((attribute, value) -> cells.put(attribute, shown(attribute, value)));
        return new People.PersonRecord(record.datasetId(), record.dataset(), record.key(), cells);
    }

    public People.PersonView person(People.PersonView view) {
        return view.shown(
                kept(view.kept()), view.records().stream().map(this::record).toList());
    }

    public People.ReviewPair pair(People.ReviewPair pair) {
        return new People.ReviewPair(
                record(pair.one()), pair.onePerson(), record(pair.other()), pair.otherPerson(), pair.evidence());
    }
}

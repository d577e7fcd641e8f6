package remitto.server.people;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.identity.Attribute;
import remitto.core.identity.RecordRef;
import remitto.core.identity.RecordTable;
import remitto.core.identity.survivorship.Candidate;
import remitto.core.identity.survivorship.Keep;

/** Which value of each attribute a person keeps, and why. */
final class KeptValues {
    private final RecordTable table;
    private final Map<RecordRef, PersonRecords.Said> said;

    KeptValues(RecordTable table, Map<RecordRef, PersonRecords.Said> said) {
        this.table = table;
        this.said = said;
    }

    /** @param datasetId and {@code key} of the record it is from */
    record KeptValue(String attribute, String value, String reason, long datasetId, String key) {}

    List<KeptValue> of(List<Integer> records) {
        Map<String, KeptValue> kept = new LinkedHashMap<>();
        for (int a = 0; a < table.attributes().size(); a++) {
            Attribute attribute = table.attributes().get(a);
            candidates(a, attribute, records)
                    .ifPresent(one -> kept.put(
                            attribute.name(),
                            new KeptValue(
                                    attribute.name(),
                                    one.candidate().value(),
                                    one.reason(),
                                    Long.parseLong(one.candidate().ref().source()),
                                    one.candidate().ref().key())));
        }
        return new ArrayList<>(kept.values());
    }

    private Optional<Keep.Kept> candidates(int position, Attribute attribute, List<Integer> records) {
        List<Candidate> candidates = new ArrayList<>();
        for (int record : records) {
            String tidied = table.value(position, record);
            PersonRecords.Said one = said.get(table.ref(record));
            if (!tidied.isEmpty()) {
                String spelled = one.cells().getOrDefault(attribute.name(), tidied);
                candidates.add(new Candidate(table.ref(record), spelled, tidied, one.place(), one.at()));
            }
        }
        return rule(attribute.kind()).from(candidates);
    }

    /** What ships; our choice. */
    static Keep rule(Attribute.Kind kind) {
        return switch (kind) {
            case GIVEN_NAME, FULL_NAME -> Keep.MOST_COMPLETE;
            case EMAIL, PHONE, ADDRESS, POSTCODE, TOWN -> Keep.NEWEST;
            case FAMILY_NAME, COMPANY -> Keep.SOURCE_ORDER;
            case BIRTH_DATE, IDENTIFIER, TEXT -> Keep.MOST_FREQUENT;
        };
    }
}

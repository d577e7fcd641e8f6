package remitto.server.people.resolution;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import remitto.core.identity.normalise.PersonName;
import remitto.core.identity.normalise.PlainText;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.survivorship.Candidate;
import remitto.core.identity.survivorship.ConsentOrder;
import remitto.core.identity.survivorship.ConsentSaid;
import remitto.core.identity.survivorship.Keep;
import remitto.core.identity.survivorship.Survivorship;
import remitto.server.people.source.PersonRecords;
import remitto.server.platform.Personal;

/** Which value of each attribute a person keeps, and why. Used by one thread. */
public final class KeptValues {
    private final RecordTable table;
    private final Map<RecordRef, PersonRecords.Said> said;
    private final Survivorship survivorship;
    private final Instant now;
    private final PlainText plain = new PlainText();

    KeptValues(RecordTable table, Map<RecordRef, PersonRecords.Said> said, Survivorship survivorship, Instant now) {
        this.table = table;
        this.said = said;
        this.survivorship = survivorship;
        this.now = now;
    }

    /**
     * The value of an attribute that stands for a person, and why.
     *
     * @param value as its source spells it
     * @param normalised the same in one spelling, such as a phone number as E.164; blank for what has no such spelling
     * @param datasetId and {@code key} of the record it is from
     * @param at when it was said, of consents; absent where nobody tells
     * @param evidence of its being said, of consents; blank for none
     * @param expires from when a yes no longer counts
     */
    public record KeptValue(
            String attribute,
            @Personal String value,
            @Personal String normalised,
            String reason,
            long datasetId,
            @Personal(Personal.Part.KEY) String key,
            Optional<Instant> at,
            @Personal(Personal.Part.IN_TEXT) String evidence,
            Optional<Instant> expires) {
        public KeptValue {
            normalised = Objects.requireNonNullElse(normalised, "");
            evidence = Objects.requireNonNullElse(evidence, "");
            expires = Objects.requireNonNullElse(expires, Optional.empty());
        }

        /** The same with a value as somebody is shown it. */
        public KeptValue shown(String value, String normalised) {
            return new KeptValue(attribute, value, normalised, reason, datasetId, key, at, evidence, expires);
        }
    }

    /**
     * @param attributes by name, as they are sent
     * @param expires when the next yes stops counting
     */
    record Kept(List<KeptValue> values, Map<String, String> attributes, Optional<Instant> expires) {}

    Kept of(List<Integer> records) {
        Map<Attribute, List<Candidate>> candidates = new LinkedHashMap<>();
        List<KeptValue> consents = new ArrayList<>();
        List<Instant> ends = new ArrayList<>();
        for (int a = 0; a < table.attributes().size(); a++) {
            Attribute attribute = table.attributes().get(a);
            if (attribute.kind() == Attribute.Kind.CONSENT) {
                consent(a, attribute, records, ends).ifPresent(consents::add);
            } else {
                candidates.put(attribute, candidates(a, attribute, records));
            }
        }
        List<KeptValue> values = new ArrayList<>();
        Map<String, String> attributes = new LinkedHashMap<>();
        survivorship.kept(candidates).forEach((attribute, one) -> {
            values.add(value(attribute, one));
            attributes.put(attribute.name(), sent(attribute, one.candidate()));
        });
        consents.forEach(one -> {
            values.add(one);
            attributes.put(one.attribute(), one.value());
            one.at().ifPresent(at -> attributes.put(one.attribute() + "_at", at.toString()));
        });
        return new Kept(values, attributes, ends.stream().min(Comparator.naturalOrder()));
    }

    private static KeptValue value(Attribute attribute, Keep.Kept one) {
        RecordRef ref = one.candidate().ref();
        return new KeptValue(
                attribute.name(),
                one.candidate().value(),
                normalised(attribute, one.candidate().normalised()),
                one.reason(),
                Long.parseLong(ref.source()),
                ref.key(),
                Optional.empty(),
                "",
                Optional.empty());
    }

    /** Dates in one spelling, so that they are dates to a route. */
    private static String sent(Attribute attribute, Candidate kept) {
        String date = attribute.kind() == Attribute.Kind.BIRTH_DATE ? normalised(attribute, kept.normalised()) : "";
        return date.isEmpty() ? kept.value() : date;
    }

    /** Names and addresses are compared by a spelling that nobody reads. */
    private static String normalised(Attribute attribute, String compared) {
        return switch (attribute.kind()) {
            case PHONE, EMAIL, NUMBER, DOMAIN -> compared;
            case BIRTH_DATE ->
                compared.length() == 8
                        ? compared.substring(0, 4) + "-" + compared.substring(4, 6) + "-" + compared.substring(6)
                        : "";
            default -> "";
        };
    }

    private List<Candidate> candidates(int position, Attribute attribute, List<Integer> records) {
        List<Candidate> candidates = new ArrayList<>();
        for (int record : records) {
            String normalised = table.value(position, record);
            if (!normalised.isEmpty()) {
                PersonRecords.Said one = said.get(table.ref(record));
                PersonRecords.Aside aside = one.aside().get(attribute.name());
                candidates.add(new Candidate(
                        table.ref(record),
                        spelled(one, attribute, normalised),
                        normalised,
                        one.place(),
                        one.at(),
                        aside != null && aside.verified()));
            }
        }
        return candidates;
    }

    /** As the source spells it; parts of a full name are taken out of that. */
    private String spelled(PersonRecords.Said said, Attribute attribute, String normalised) {
        String cell = said.cells().get(attribute.name());
        if (cell != null) {
            return cell;
        }
        PersonName name = PersonName.spelled(said.fullName(), plain);
        return switch (attribute.kind()) {
            case GIVEN_NAME -> name.given().isEmpty() ? normalised : name.given();
            case FAMILY_NAME -> name.family().isEmpty() ? normalised : name.family();
            default -> normalised;
        };
    }

    private Optional<KeptValue> consent(int position, Attribute attribute, List<Integer> records, List<Instant> ends) {
        List<ConsentSaid> all = new ArrayList<>();
        for (int record : records) {
            String answer = table.value(position, record);
            if (!answer.isEmpty()) {
                PersonRecords.Said one = said.get(table.ref(record));
                Optional<PersonRecords.Aside> aside =
                        Optional.ofNullable(one.aside().get(attribute.name()));
                Optional<Instant> expires = aside.flatMap(PersonRecords.Aside::expires);
                expires.filter(end -> end.isAfter(now) && answer.equals("yes")).ifPresent(ends::add);
                all.add(new ConsentSaid(
                        table.ref(record),
                        answer.equals("yes"),
                        aside.flatMap(PersonRecords.Aside::saidAt),
                        aside.map(PersonRecords.Aside::evidence).orElse(""),
                        expires));
            }
        }
        return ConsentOrder.of(all, now)
                .map(one -> new KeptValue(
                        attribute.name(),
                        one.said().yes() ? "yes" : "no",
                        "",
                        one.reason(),
                        Long.parseLong(one.said().ref().source()),
                        one.said().ref().key(),
                        one.said().at(),
                        one.said().evidence(),
                        one.said().expires()));
    }
}

package remitto.core.identity.survivorship;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Attribute.Kind;
import remitto.core.identity.record.RecordRef;
import remitto.core.shaper.PhoneType;

class SurvivorshipTest {
    private static final Attribute TOWN = new Attribute("town", Kind.TOWN);
    private static final Attribute STREET = new Attribute("street", Kind.ADDRESS);
    private static final Attribute PHONE = new Attribute("phone", Kind.PHONE);
    private static final Attribute EMAIL = new Attribute("email", Kind.EMAIL);

    private static Candidate from(String source, String value, int place, String day, boolean verified) {
        return new Candidate(
                new RecordRef(source, source),
                value,
                value.toLowerCase(java.util.Locale.ROOT),
                place,
                Optional.of(Instant.parse(day + "T00:00:00Z")),
                verified);
    }

    private static Map<Attribute, List<Candidate>> address() {
        Map<Attribute, List<Candidate>> candidates = new LinkedHashMap<>();
        candidates.put(
                TOWN,
                List.of(
                        from("pass", "Sandvær", 0, "2026-05-01", false),
                        from("wifi", "Holmby", 1, "2026-01-01", false)));
        candidates.put(
                STREET,
                List.of(
                        from("pass", "Quay 1", 0, "2026-05-01", false),
                        from("wifi", "Long Harbour Street 12 B", 1, "2026-01-01", false)));
        return candidates;
    }

    @Test
    void streetAndTownStayTogether() {
        Survivorship rules = new Survivorship(
                Map.of("street", KeepRule.of(Keep.LONGEST), "town", new KeepRule(Keep.NEWEST, false, "street")));
        Map<Attribute, Keep.Kept> kept = rules.kept(address());
        assertThat(kept.get(STREET).candidate().value()).isEqualTo("Long Harbour Street 12 B");
        assertThat(kept.get(TOWN).candidate().value()).isEqualTo("Holmby");
        assertThat(kept.get(TOWN).reason()).isEqualTo("from the record that street is from");
        assertThat(new Survivorship(Map.of("street", KeepRule.of(Keep.LONGEST)))
                        .kept(address())
                        .get(TOWN)
                        .candidate()
                        .value())
                .as("each by its own rule otherwise")
                .isEqualTo("Sandvær");
    }

    @Test
    void whatTheLeadingRecordDoesNotSayIsNotTakenFromElsewhere() {
        Map<Attribute, List<Candidate>> candidates = new LinkedHashMap<>(address());
        candidates.put(TOWN, List.of(from("pass", "Sandvær", 0, "2026-05-01", false)));
        Survivorship rules = new Survivorship(
                Map.of("street", KeepRule.of(Keep.LONGEST), "town", new KeepRule(Keep.NEWEST, false, "street")));
        assertThat(rules.kept(candidates)).containsOnlyKeys(STREET);
        candidates.remove(STREET);
        assertThat(rules.kept(candidates).get(TOWN).candidate().value())
                .as("nobody has a street")
                .isEqualTo("Sandvær");
    }

    @Test
    void aVerifiedValueGoesFirst() {
        Map<Attribute, List<Candidate>> candidates = Map.of(
                EMAIL,
                List.of(
                        from("pass", "new@sol.example", 0, "2026-05-01", false),
                        from("wifi", "old@sol.example", 1, "2026-01-01", true)));
        Keep.Kept plain = new Survivorship(Map.of()).kept(candidates).get(EMAIL);
        assertThat(plain.candidate().value()).isEqualTo("new@sol.example");
        Keep.Kept verified = new Survivorship(Map.of("email", new KeepRule(Keep.NEWEST, true, "")))
                .kept(candidates)
                .get(EMAIL);
        assertThat(verified.candidate().value()).isEqualTo("old@sol.example");
        assertThat(verified.reason()).isEqualTo("the verified one");
    }

    @Test
    void aMobileGoesBeforeALandlineOrAlone() {
        List<Candidate> both = List.of(
                from("wifi", "+4722334455", 0, "2026-05-01", false),
                from("pass", "+4791244870", 1, "2026-01-01", false));
        assertThat(phone(new PhoneChoice(PhoneType.MOBILE, false), both).map(Keep.Kept::reason))
                .hasValue("mobile, the only value");
        assertThat(phone(new PhoneChoice(PhoneType.MOBILE, false), both)
                        .map(one -> one.candidate().value()))
                .hasValue("+4791244870");
        assertThat(phone(new PhoneChoice(PhoneType.FIXED_LINE, true), both)
                        .map(one -> one.candidate().value()))
                .hasValue("+4722334455");
        List<Candidate> landline = both.subList(0, 1);
        assertThat(phone(new PhoneChoice(PhoneType.MOBILE, false), landline).map(Keep.Kept::reason))
                .as("better than none")
                .hasValue("the only value");
        assertThat(phone(new PhoneChoice(PhoneType.MOBILE, true), landline)).isEmpty();
    }

    private static Optional<Keep.Kept> phone(PhoneChoice choice, List<Candidate> candidates) {
        KeepRule rule = new KeepRule(Keep.NEWEST, false, "", Optional.of(choice));
        Map<Attribute, Keep.Kept> kept = new Survivorship(Map.of("phone", rule)).kept(Map.of(PHONE, candidates));
        return Optional.ofNullable(kept.get(PHONE));
    }

    @Test
    void attributesThatWaitForEachOtherAreFound() {
        assertThat(new Survivorship(Map.of(
                                "street", new KeepRule(Keep.NEWEST, false, "town"),
                                "town", new KeepRule(Keep.NEWEST, false, "street")))
                        .circle())
                .isNotEmpty();
        assertThat(new Survivorship(Map.of(
                                "street", new KeepRule(Keep.NEWEST, false, "town"), "town", KeepRule.of(Keep.NEWEST)))
                        .circle())
                .isEmpty();
    }
}

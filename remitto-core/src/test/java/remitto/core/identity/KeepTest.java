package remitto.core.identity;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.survivorship.Candidate;
import remitto.core.identity.survivorship.Keep;

class KeepTest {
    private static final List<Candidate> NAMES = List.of(
            name("ticketing", "T-1", "Ingrid", 0, "2026-03-01T00:00:00Z"),
            name("pass", "P-1", "Ingrid Marie", 1, "2026-01-01T00:00:00Z"),
            name("wifi", "W-1", "ingrid", 2, "2026-02-01T00:00:00Z"),
            name("newsletter", "N-1", "I.", 3, ""));

    private static Candidate name(String source, String key, String value, int place, String at) {
        return new Candidate(
                new RecordRef(source, key),
                value,
                value.toLowerCase(java.util.Locale.ROOT).replace(".", ""),
                place,
                at.isEmpty() ? Optional.empty() : Optional.of(Instant.parse(at)),
                false);
    }

    @ParameterizedTest
    @CsvSource({
        "SOURCE_ORDER, Ingrid, first source that has one",
        "NEWEST, Ingrid, newest",
        "MOST_COMPLETE, Ingrid Marie, most complete",
        "MOST_FREQUENT, Ingrid, 'most frequent, 2 of 4'",
        "LONGEST, Ingrid Marie, longest",
        "SMALLEST, I., smallest",
        "LARGEST, Ingrid Marie, largest",
    })
    void whichIsKeptAndWhy(Keep rule, String value, String reason) {
        Keep.Kept kept = rule.from(NAMES).orElseThrow();
        assertThat(kept.candidate().value()).isEqualTo(value);
        assertThat(kept.reason()).isEqualTo(reason);
    }

    @ParameterizedTest
    @EnumSource(Keep.class)
    void theOrderTheyComeInDoesNotMatter(Keep rule) {
        for (int i = 0; i < 20; i++) {
            List<Candidate> shuffled = new ArrayList<>(NAMES);
            Collections.shuffle(shuffled, new Random(i));
            assertThat(rule.from(shuffled)).isEqualTo(rule.from(NAMES));
        }
    }

    @Test
    void tiesGoBySourceAndSaySo() {
        List<Candidate> two = List.of(
                name("wifi", "W-1", "Kari", 2, "2026-01-01T00:00:00Z"),
                name("pass", "P-1", "Karin", 1, "2026-01-01T00:00:00Z"));
        Keep.Kept kept = Keep.NEWEST.from(two).orElseThrow();
        assertThat(kept.candidate().value()).isEqualTo("Karin");
        assertThat(kept.reason()).isEqualTo("newest, then by source");
    }

    @Test
    void whatAllSayNeedsNoRule() {
        assertThat(Keep.NEWEST.from(NAMES.subList(0, 1)).orElseThrow().reason()).isEqualTo("the only value");
        assertThat(Keep.NEWEST
                        .from(List.of(NAMES.get(0), NAMES.get(2)))
                        .orElseThrow()
                        .reason())
                .isEqualTo("all 2 agree");
        assertThat(Keep.NEWEST.from(List.of())).isEmpty();
    }
}

package remitto.core.identity.survivorship;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.identity.record.RecordRef;

class ConsentOrderTest {
    private static final Instant NOW = Instant.parse("2026-06-01T00:00:00Z");

    /** Such as "yes 2026-03 form" or "no - -"; a yes may say when it expires. */
    private static ConsentSaid said(String text, int number) {
        String[] words = text.strip().split(" ");
        return new ConsentSaid(
                new RecordRef("source" + number, "k" + number),
                words[0].equals("yes"),
                month(words[1]),
                words[2].equals("-") ? "" : words[2],
                words.length > 3 ? month(words[3]) : Optional.empty());
    }

    private static Optional<Instant> month(String text) {
        return text.equals("-") ? Optional.empty() : Optional.of(Instant.parse(text + "-01T00:00:00Z"));
    }

    @ParameterizedTest(name = "{0} comes to {1}")
    @CsvSource({
        "'', not asked, ''",
        "'yes 2026-03 form', yes, 'said yes, and no record says no'",
        "'yes - -', yes, 'said yes, and no record says no'",
        "'no 2026-03 -', no, said no",
        "'yes 2026-02 form; no 2026-03 -', no, a no beats a yes",
        "'yes 2026-04 form; no 2026-03 -', yes, a later yes with evidence of its own lifts the no",
        "'yes 2026-04 -; no 2026-03 -', no, a no beats a yes",
        "'yes - form; no 2026-03 -', no, a no beats a yes",
        "'yes 2026-04 form; no - -', no, a no beats a yes",
        "'yes 2026-04 form; no 2026-03 -; no 2026-05 -', no, a no beats a yes",
        "'yes 2026-03 form; no 2026-03 -', no, a no beats a yes",
        "'yes 2026-01 form 2026-05', not asked, ''",
        "'yes 2026-01 form 2026-07', yes, 'said yes, and no record says no'",
        "'yes 2026-04 form 2026-05; no 2026-03 -', no, said no",
    })
    void noBeatsYesBeatsNotAskedUnlessALaterYesLiftsIt(String records, String outcome, String reason) {
        List<ConsentSaid> all = new ArrayList<>();
        for (String one : records.isEmpty() ? new String[0] : records.split(";")) {
            all.add(said(one, all.size()));
        }
        for (int order = 0; order < 4; order++) {
            Optional<ConsentOrder.Decided> decided = ConsentOrder.of(all, NOW);
            assertThat(decided.map(one -> one.said().yes() ? "yes" : "no").orElse("not asked"))
                    .isEqualTo(outcome);
            assertThat(decided.map(ConsentOrder.Decided::reason).orElse("")).isEqualTo(reason);
            Collections.shuffle(all, new Random(order));
        }
    }
}

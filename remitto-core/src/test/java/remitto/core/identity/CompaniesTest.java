package remitto.core.identity;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.identity.compare.Comparison;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.normalise.Normaliser;
import remitto.core.identity.quality.Difference;
import remitto.core.identity.quality.Quality;
import remitto.core.identity.quality.ThresholdCurve;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Attribute.Kind;
import remitto.core.identity.record.Links;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.ResolutionRules;

/** Businesses are joined by the machinery that joins people. */
class CompaniesTest {
    private static final List<Attribute> ATTRIBUTES = List.of(
            new Attribute("company", Kind.COMPANY),
            new Attribute("registration", Kind.IDENTIFIER),
            new Attribute("domain", Kind.DOMAIN),
            new Attribute("address", Kind.ADDRESS),
            new Attribute("postcode", Kind.POSTCODE));
    private static final List<String> BEGIN = List.of(
            "Nord", "Sør", "Hav", "Fjell", "Vest", "Øst", "Lund", "Berg", "Strand", "Holm", "Vik", "Nes", "Ås", "Elv",
            "Sund", "Haug");
    private static final List<String> END =
            List.of("fisk", "frakt", "laks", "tre", "stål", "bygg", "mat", "last", "ull", "is", "olje", "skip");
    private static final List<String> FORMS = List.of(" AS", " ASA", "", " A/S");

    private record Made(RecordTable table, int[] truth) {}

    private static Made made(int companies) {
        SplittableRandom random = new SplittableRandom(7);
        Normaliser normaliser = new Normaliser(true);
        RecordTable.Builder builder = new RecordTable.Builder(ATTRIBUTES);
        List<Integer> truth = new ArrayList<>();
        for (int company = 0; company < companies; company++) {
            String name =
                    BEGIN.get(random.nextInt(16)) + END.get(random.nextInt(12)) + " " + BEGIN.get(random.nextInt(16));
            for (String source : List.of("a-freight", "b-invoices")) {
                String[] values = {
                    name + FORMS.get(random.nextInt(4)),
                    random.nextInt(3) == 0 ? "" : "9" + (10_000_000 + company * 31),
                    random.nextInt(3) == 0 ? "" : "https://www.firm" + company + ".example/contact",
                    random.nextInt(4) == 0 ? "" : "Quay " + company % 97,
                    "" + (1000 + company % 331)
                };
                for (int i = 0; i < values.length; i++) {
                    values[i] = normaliser.normalise(ATTRIBUTES.get(i).kind(), values[i], "NO");
                }
                builder.add(new RecordRef(source, "%06d".formatted(company)), values);
            }
        }
        RecordTable table = builder.build();
        for (int record = 0; record < table.size(); record++) {
            truth.add(Integer.parseInt(table.ref(record).key()));
        }
        return new Made(table, truth.stream().mapToInt(Integer::intValue).toArray());
    }

    @Test
    void theyAreFoundByNameNumberDomainAndAddress() {
        Made made = made(1_500);
        ResolutionRules set = ResolutionRules.usual(ATTRIBUTES);
        Resolution resolution = Resolution.of(made.table(), set, new MatchOverrides());
        Quality quality = Quality.of(resolution.groups().group(), made.truth());
        assertThat(quality.precision()).isGreaterThan(0.99);
        assertThat(quality.recall()).isGreaterThan(0.95);

        Scorer scorer = new Scorer(resolution.table(), resolution.found().weights(), set.nicknames());
        Links links = resolution.found().links();
        for (int link = 0; link < Math.min(50, links.size()); link++) {
            List<Weights.LedgerEntry> ledger = scorer.ledger(links.one(link), links.other(link));
            assertThat(ledger.get(0).words()).as("companies have no households").isEqualTo("any two records");
            assertThat(ledger.stream().mapToDouble(Weights.LedgerEntry::bits).sum())
                    .isCloseTo(links.weight(link), within(0.01));
        }

        List<ThresholdCurve.ThresholdPoint> curve =
                ThresholdCurve.of(resolution.table(), set, resolution.found().weights(), made.truth(), -5, 25);
        ThresholdCurve.ThresholdPoint usual = curve.stream()
                .filter(point -> point.join() == set.rules().thresholds().join())
                .findFirst()
                .orElseThrow();
        assertThat(usual.precision()).isEqualTo(quality.precision());
        assertThat(usual.recall()).isEqualTo(quality.recall());
        for (int i = 1; i < curve.size(); i++) {
            assertThat(curve.get(i).persons())
                    .as("a higher threshold joins fewer")
                    .isGreaterThanOrEqualTo(curve.get(i - 1).persons());
        }
        assertThat(curve.get(curve.size() - 1).recall()).isLessThan(usual.recall());
    }

    @ParameterizedTest
    @CsvSource({
        "COMPANY, Nordfisk Lund A/S, nordfisk lund",
        "COMPANY, Müller & Söhne GmbH & Co. KG, muller sohne",
        "COMPANY, AS, as",
        "COMPANY, Berg og Dal ANS, berg dal",
        "DOMAIN, https://www.Nordfisk.example/om-oss, nordfisk.example",
        "DOMAIN, post@nordfisk.example, nordfisk.example",
        "DOMAIN, bücher.example, xn--bcher-kva.example",
        "DOMAIN, nowhere, ''",
        "LIST, 'b 2; A1 | a1', a1|b2",
        "NUMBER, ' 1 200.50', 1200.5",
        "NUMBER, many, ''",
        "CONSENT, Opted-in, yes",
        "CONSENT, FALSE, no",
        "CONSENT, maybe, ''",
        "VERBATIM, ' Ab-1 ', Ab-1",
    })
    void whatTheirValuesAreTidiedTo(Kind kind, String spelled, String normalised) {
        assertThat(new Normaliser(true).normalise(kind, spelled, "NO")).isEqualTo(normalised);
    }

    @ParameterizedTest
    @CsvSource({"10, 12, 2, true", "10, 12.5, 2, false", "10, x, 2, false"})
    void numbersMayBeClose(String one, String other, double most, boolean holds) {
        assertThat(new Comparison.Near(most).holds(one, other)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "20240228, 20240301, 2, true",
        "20230228, 20230301, 1, true",
        "20240228, 20240301, 1, false",
        "20240228, 2024, 1, false"
    })
    void datesMayBeClose(String one, String other, int most, boolean holds) {
        assertThat(new Comparison.NearDays(most).holds(one, other)).isEqualTo(holds);
    }

    @Test
    void twoGroupingsAreToldApartPairByPair() {
        Difference difference = Difference.of(new int[] {0, 0, 0, 3, 3}, new int[] {0, 0, 2, 3, 2}, 10);
        assertThat(difference.both()).isEqualTo(1);
        assertThat(difference.onlyFirst()).isEqualTo(3);
        assertThat(difference.onlySecond()).isEqualTo(1);
        assertThat(difference.firstExamples()).containsExactly(new int[] {0, 2}, new int[] {1, 2}, new int[] {3, 4});
        assertThat(difference.secondExamples()).containsExactly(new int[] {2, 4});
        assertThat(Difference.of(new int[] {0, 0, 0, 3, 3}, new int[] {0, 0, 2, 3, 2}, 1)
                        .firstExamples())
                .hasSize(1);
    }
}

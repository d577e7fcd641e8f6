package remitto.core.identity.compare;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.CharRange;
import net.jqwik.api.constraints.StringLength;
import org.apache.commons.text.similarity.JaroWinklerSimilarity;
import org.apache.commons.text.similarity.LevenshteinDistance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** How values are compared, against published values. */
class ComparisonTest {
    /**
     * Winkler, String comparator metrics and enhanced decision rules in the Fellegi-Sunter model of record linkage (1990), table of
     * string comparators; the names and values are from memory of that table.
     */
    @ParameterizedTest
    @CsvSource({
        "SHACKLEFORD, SHACKELFORD, 0.982",
        "DUNNINGHAM, CUNNIGHAM, 0.896",
        "NICHLESON, NICHULSON, 0.956",
        "JONES, JOHNSON, 0.832",
        "MASSEY, MASSIE, 0.933",
        "ABROMS, ABRAMS, 0.922",
        "JERALDINE, GERALDINE, 0.926",
        "MARHTA, MARTHA, 0.961",
        "MICHELLE, MICHAEL, 0.921",
        "JULIES, JULIUS, 0.933",
        "TANYA, TONYA, 0.880",
        "DWAYNE, DUANE, 0.840",
        "SEAN, SUSAN, 0.805",
        "JON, JOHN, 0.933",
    })
    void jaroAndWinklerAsPublished(String one, String other, double similarity) {
        assertThat(new JaroWinklerSimilarity().apply(one, other)).isCloseTo(similarity, within(0.006));
        assertThat(new Comparison.Alike(similarity - 0.006).holds(one, other)).isTrue();
        assertThat(new Comparison.Alike(similarity + 0.006).holds(one, other)).isFalse();
    }

    /** The Soundex Indexing System, US National Archives: its examples and its rules for h, w and double letters. */
    @ParameterizedTest
    @CsvSource({
        "gutierrez, G362",
        "pfister, P236",
        "jackson, J250",
        "tymczak, T522",
        "vandeusen, V532",
        "ashcraft, A261",
        "washington, W252",
        "lee, L000",
    })
    void soundexByTheRulesOfTheNationalArchives(String name, String code) {
        assertThat(org.apache.commons.codec.language.Soundex.US_ENGLISH.encode(name))
                .isEqualTo(code);
    }

    @ParameterizedTest
    @CsvSource({
        "martha, marhta, 1, true",
        "abc, abc, 0, true",
        "abc, acb, 0, false",
        "kitten, sitting, 2, false",
        "kitten, sitting, 3, true",
        "19620307, 19620703, 1, false",
        "19620307, 19620317, 1, true",
    })
    void slips(String one, String other, int most, boolean within) {
        assertThat(new Comparison.Slips(most).holds(one, other)).isEqualTo(within);
        assertThat(new Comparison.Slips(most).holds(other, one)).isEqualTo(within);
    }

    /** Against the reference: without swaps the distance is Levenshtein's; a swap saves at most one edit each. */
    @Property
    void slipsAreNeverMoreThanLevenshteinsDistance(
            @ForAll @StringLength(max = 9) @CharRange(from = 'a', to = 'd') String one,
            @ForAll @StringLength(max = 9) @CharRange(from = 'a', to = 'd') String other) {
        int levenshtein = LevenshteinDistance.getDefaultInstance().apply(one, other);
        int slips = SlipDistance.of(one, other, 20);
        assertThat(slips).isLessThanOrEqualTo(levenshtein).isGreaterThanOrEqualTo((levenshtein + 1) / 2);
        assertThat(SlipDistance.of(other, one, 20)).isEqualTo(slips);
        assertThat(SlipDistance.atMost(one, other, slips)).isTrue();
        assertThat(slips == 0 || !SlipDistance.atMost(one, other, slips - 1)).isTrue();
    }

    @ParameterizedTest
    @CsvSource({
        "i, ingrid, true",
        "ingrid, i marie, true",
        "ingrid, ida, false",
        "i, olav, false",
    })
    void initials(String one, String other, boolean holds) {
        assertThat(new Comparison.Initial().holds(one, other)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "runa@sol.example, runa@kai.example, true",
        "runa@sol.example, runar@sol.example, false",
        "ru@sol.example, ru@kai.example, false",
    })
    void oneNameAtTwoDomains(String one, String other, boolean holds) {
        assertThat(new Comparison.SameLocalPart().holds(one, other)).isEqualTo(holds);
    }
}

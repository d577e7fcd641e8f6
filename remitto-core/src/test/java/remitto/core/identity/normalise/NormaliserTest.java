package remitto.core.identity.normalise;

import static org.assertj.core.api.Assertions.assertThat;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.identity.record.Attribute.Kind;

class NormaliserTest {
    private final Normaliser normaliser = new Normaliser(true);

    @ParameterizedTest
    @CsvSource({
        "GIVEN_NAME, ' Ingrid-Marie ', ingrid marie",
        "GIVEN_NAME, Łukasz, lukasz",
        "GIVEN_NAME, Γιώργος, giorgos",
        "FAMILY_NAME, MacAllister, macallister",
        "FAMILY_NAME, Mac Allister, macallister",
        "FAMILY_NAME, van der Meer, vandermeer",
        "FAMILY_NAME, O'Neill, oneill",
        "FAMILY_NAME, Straße, strasse",
        "FAMILY_NAME, 'Solvang, jr.', solvang",
        "EMAIL, 'Runa Vik <RUNA+ferry@Sol.Example>', runa@sol.example",
        "EMAIL, nobody, ''",
        "PHONE, 0047 912 34 567, +4791234567",
        "PHONE, 912 34 567, +4791234567",
        "PHONE, ring me, ''",
        "BIRTH_DATE, 1962-03-07, 19620307",
        "BIRTH_DATE, 07.03.1962, 19620307",
        "BIRTH_DATE, 7/3/1962, 19620307",
        "BIRTH_DATE, 12/31/1962, 19621231",
        "BIRTH_DATE, 19620307, 19620307",
        "BIRTH_DATE, 7. mars 1962, 19620307",
        "BIRTH_DATE, 7 December 1962, 19621207",
        "BIRTH_DATE, 1962-02-30, 19620230",
        "BIRTH_DATE, 19621346, 19621346",
        "BIRTH_DATE, unknown, ''",
        "BIRTH_DATE, 31.4., ''",
        "BIRTH_DATE, 1962-03-07T00:00:00Z, 19620307",
        "POSTCODE, 0150 , 0150",
        "POSTCODE, SW1A 1AA, sw1a1aa",
        "ADDRESS, 'Strandgata 12 B', strandgata 12 b",
    })
    void spelledAsCompared(Kind kind, String spelled, String normalised) {
        assertThat(normaliser.normalise(kind, spelled, "NO")).isEqualTo(normalised);
    }

    @ParameterizedTest
    @CsvSource({
        "Ingrid Solvang, ingrid, solvang",
        "'Solvang, Ingrid Marie', ingrid marie, solvang",
        "Sanne van der Meer, sanne, vandermeer",
        "I. Solvang, i, solvang",
        "Dr. Ingrid Solvang, ingrid, solvang",
        "Madonna, '', madonna",
        "'', '', ''",
    })
    void namesInTwoParts(String full, String given, String family) {
        assertThat(normaliser.name(full)).isEqualTo(new PersonName(given, family));
    }

    @ParameterizedTest
    @CsvSource({
        "Väinö Lehtonen, Väinö, Lehtonen",
        "Dr. Anne-Marie van der Meer, Anne-Marie, van der Meer",
        "'HOLM, Kari', Kari, HOLM",
        "Kari Holm-Berg jr., Kari, Holm-Berg",
        "Björk, '', Björk",
        "'', '', ''",
    })
    void partsOfAFullNameStayAsTheyAreSpelled(String full, String given, String family) {
        PersonName name = PersonName.spelled(full, new PlainText());
        assertThat(name).isEqualTo(new PersonName(given, family));
        PersonName plain = PersonName.split(full, new PlainText());
        assertThat(plain.family()).isEqualTo(PersonName.family(name.family(), new PlainText()));
        assertThat(plain.given()).isEqualTo(PersonName.given(name.given(), new PlainText()));
    }

    @Property
    void tidyingTwiceIsTidyingOnce(@ForAll Kind kind, @ForAll String spelled) {
        if (kind != Kind.FAMILY_NAME && kind != Kind.GIVEN_NAME) {
            String once = normaliser.normalise(kind, spelled, "NO");
            assertThat(normaliser.normalise(kind, once, "NO")).isEqualTo(once);
        }
    }
}

package remitto.core.destination;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.destination.NamedObject.Titled;

/** List names match in case and spacing or not at all: common practice, no source. */
class NamedObjectTest {
    private static final List<Titled> LISTS = List.of(
            new Titled("l1", "Lapsed islanders"),
            new Titled("l2", "Summer 2026"),
            new Titled("l3", "Straße"),
            new Titled("l4", "summer 2026"));

    @Test
    void theSameNameIsFound() {
        assertThat(NamedObject.find(LISTS, "Lapsed islanders").exact()).contains("l1");
        assertThat(NamedObject.find(LISTS, "Summer 2026"))
                .isEqualTo(new NamedObject(java.util.Optional.of("l2"), List.of()));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "lapsed islanders",
                "Lapsed  islanders",
                "Lapsed islanders ",
                "LAPSED-ISLANDERS",
                "lapsed_islanders",
                "Lapsed\u00A0islanders",
                "LapsedIslanders",
                "Lapsed\u2013islanders"
            })
    void whatIsNearlyTheNameIsToldAndNotTaken(String wanted) {
        NamedObject found = NamedObject.find(LISTS, wanted);
        assertThat(found.exact()).isEmpty();
        assertThat(found.near()).containsExactly("Lapsed islanders");
    }

    @Test
    void everythingThatIsNearIsTold() {
        assertThat(NamedObject.find(LISTS, "SUMMER 2026").near()).containsExactly("Summer 2026", "summer 2026");
        assertThat(NamedObject.find(LISTS, "STRASSE").near())
                .as("full case folding")
                .containsExactly("Straße");
        assertThat(NamedObject.find(LISTS, "Summer 2027").near()).isEmpty();
    }
}

package remitto.server.people.resolution;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.identity.normalise.Normaliser;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.survivorship.Survivorship;
import remitto.server.people.source.PersonRecords;

/** A kept value is shown in one spelling, beside the one that its source uses. */
class KeptValuesTest {
    private static KeptValues.Kept kept(Attribute attribute, String spelled) {
        RecordRef ref = new RecordRef("7", "P-1");
        RecordTable.Builder builder = new RecordTable.Builder(List.of(attribute));
        builder.add(ref, new String[] {new Normaliser(true).normalise(attribute.kind(), spelled, "NO")});
        PersonRecords.Said said = new PersonRecords.Said(
                1, Map.of(attribute.name(), spelled), "", Map.of(), Optional.empty(), 1, Optional.empty());
        return new KeptValues(
                        builder.build(),
                        new LinkedHashMap<>(Map.of(ref, said)),
                        new Survivorship(Map.of()),
                        Instant.EPOCH)
                .of(List.of(0));
    }

    @ParameterizedTest
    @CsvSource({
        "PHONE, 0047 915 12 345, +4791512345",
        "PHONE, 915 12 345, +4791512345",
        "EMAIL, Ingrid.Solvang+news@Post.EXAMPLE, ingrid.solvang@post.example",
        "BIRTH_DATE, 4.3.1981, 1981-03-04",
        "BIRTH_DATE, 1981, ''",
        "NUMBER, 1 200.50, 1200.5",
        "GIVEN_NAME, Åse, ''",
        "TOWN, LYSØ, ''"
    })
    void whatHasOneSpellingForEverybodyIsShownInIt(Attribute.Kind kind, String spelled, String normalised) {
        KeptValues.KeptValue value =
                kept(new Attribute("one", kind), spelled).values().get(0);
        assertThat(value.value()).isEqualTo(spelled);
        assertThat(value.normalised()).isEqualTo(normalised);
    }

    @Test
    void routesGetDatesInOneSpellingAndEverythingElseAsTheSourceSpellsIt() {
        assertThat(kept(new Attribute("born", Attribute.Kind.BIRTH_DATE), "4.3.1981")
                        .attributes())
                .containsEntry("born", "1981-03-04");
        assertThat(kept(new Attribute("phone", Attribute.Kind.PHONE), "915 12 345")
                        .attributes())
                .containsEntry("phone", "915 12 345");
    }

    @Test
    void whatWasKeptBeforeThereWereNormalisedValuesIsReadable() {
        KeptValues.KeptValue old = new KeptValues.KeptValue(
                "phone", "915 12 345", null, "the only value", 7, "P-1", Optional.empty(), null, null);
        assertThat(old.normalised()).isEmpty();
        assertThat(old.shown("9•••", "+47•••").normalised()).isEqualTo("+47•••");
    }
}

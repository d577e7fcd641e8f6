package remitto.core.identity;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.IntStream;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.Test;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.quality.Quality;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Attribute.Kind;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.ResolutionRules;

/**
 * The datasets of FEBRL (Christen, HDKM 2008) that people measure record linkage by, joined by what ships, without labels. Dataset
 * 4 is two files of 5,000, each person once in each; dataset 3 one file of 5,000 with up to six records a person. See the licence
 * beside the files. The bounds are what was reached when they were written down, less one pair in a thousand.
 */
class FebrlTest {
    private static final List<Attribute> COLUMNS = List.of(
            new Attribute("given_name", Kind.GIVEN_NAME),
            new Attribute("family_name", Kind.FAMILY_NAME),
            new Attribute("address", Kind.ADDRESS),
            new Attribute("address", Kind.ADDRESS),
            new Attribute("town", Kind.TOWN),
            new Attribute("postcode", Kind.POSTCODE),
            new Attribute("birth_date", Kind.BIRTH_DATE));
    private static final List<Integer> CELLS = List.of(1, 2, 3, 4, 6, 7, 9);
    private static final Attribute NUMBER = new Attribute("soc_sec_id", Kind.IDENTIFIER);
    private static final int NUMBER_CELL = 10;

    private static Resolution resolve(boolean number, String... files) throws IOException {
        List<Attribute> columns = new ArrayList<>(COLUMNS);
        List<Integer> cells = new ArrayList<>(CELLS);
        if (number) {
            columns.add(NUMBER);
            cells.add(NUMBER_CELL);
        }
        Intake intake = new Intake(columns);
        Intake.Normalising normalising = intake.normalising();
        RecordTable.Builder builder = new RecordTable.Builder(intake.attributes());
        for (String file : files) {
            for (String line : lines(file)) {
                String[] row = line.split(",", -1);
                String[] values = cells.stream().map(cell -> row[cell].strip()).toArray(String[]::new);
                builder.add(new RecordRef(file, row[0]), normalising.normalise(values, "AU"));
            }
        }
        RecordTable table = builder.build();
        return Resolution.of(table, ResolutionRules.usual(table.attributes()), new MatchOverrides());
    }

    private static List<String> lines(String file) throws IOException {
        try (var in = new GZIPInputStream(Objects.requireNonNull(
                        FebrlTest.class.getResourceAsStream("/febrl/dataset" + file + ".csv.gz")));
                var reader = new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8))) {
            return reader.lines().skip(1).toList();
        }
    }

    /** Records are called rec-223-org or rec-223-dup-0: the number is the person. */
    private static Quality quality(Resolution resolution) {
        RecordTable table = resolution.table();
        Map<String, Integer> persons = new HashMap<>();
        int[] truth = IntStream.range(0, table.size())
                .map(record -> persons.computeIfAbsent(table.ref(record).key().split("-")[1], person -> persons.size()))
                .toArray();
        return Quality.of(resolution.groups().group(), truth);
    }

    @Test
    void twoFilesOfTheSamePeople() throws IOException {
        Resolution resolution = resolve(false, "4a", "4b");
        Quality quality = quality(resolution);
        assertThat(quality.precision()).isGreaterThanOrEqualTo(0.9995);
        assertThat(quality.f1()).isGreaterThanOrEqualTo(0.998);
        assertThat(resolution.found().weights().hasHouseholds())
                .as("nobody lives with anybody in these files")
                .isFalse();
    }

    @Test
    void upToSixRecordsOfOnePerson() throws IOException {
        Quality quality = quality(resolve(false, "3"));
        assertThat(quality.precision()).isGreaterThanOrEqualTo(0.9995);
        assertThat(quality.f1()).isGreaterThanOrEqualTo(0.998);
    }

    /** A number with slips of its own helps, and keeps nobody apart who has a birth date with a slip as well. */
    @Test
    void withTheNumberOfTheirInsurance() throws IOException {
        for (Quality quality : List.of(quality(resolve(true, "4a", "4b")), quality(resolve(true, "3")))) {
            assertThat(quality.precision()).isGreaterThanOrEqualTo(0.9995);
            assertThat(quality.f1()).isGreaterThanOrEqualTo(0.9995);
        }
    }
}

package remitto.server.people.source;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.people.EntityType;

/** What columns say of a person, guessed by their names; those of the FEBRL files (Christen 2008) among them. */
class SuggestedColumnsTest {
    private static Datasets.Dataset dataset(Column... columns) {
        return new Datasets.Dataset(
                1,
                "People",
                "",
                1,
                "Warehouse",
                1,
                Optional.of(1),
                "edda",
                Instant.EPOCH,
                0,
                Optional.empty(),
                new DatasetDefinition(new DatasetDefinition.Query.SqlQuery("select 1"), List.of(columns)));
    }

    private static Column text(String name) {
        return new Column(name, ColumnType.TEXT, ColumnRole.ATTRIBUTE);
    }

    private static List<String> kinds(Column... columns) {
        return SuggestedColumns.of(EntityType.PERSON, dataset(columns)).columns().stream()
                .map(one -> one.column() + " " + one.kind())
                .toList();
    }

    @Test
    void theColumnsOfPublishedFilesAreKnown() {
        List<Column> columns = Arrays.asList(
                new Column("rec_id", ColumnType.TEXT, ColumnRole.KEY),
                text("given_name"),
                text("surname"),
                text("street_number"),
                text("address_1"),
                text("suburb"),
                new Column("postcode", ColumnType.INTEGER, ColumnRole.ATTRIBUTE),
                text("state"),
                text("date_of_birth"),
                text("soc_sec_id"));
        assertThat(kinds(columns.toArray(Column[]::new)))
                .containsExactly(
                        "given_name GIVEN_NAME",
                        "surname FAMILY_NAME",
                        "street_number ADDRESS",
                        "address_1 ADDRESS",
                        "suburb TOWN",
                        "postcode POSTCODE",
                        "date_of_birth BIRTH_DATE",
                        "soc_sec_id IDENTIFIER");
    }

    @Test
    void otherUsualNamesAreKnown() {
        assertThat(kinds(text("house_no"), text("zip"), text("municipality"), text("dob"), text("passport_no")))
                .containsExactly(
                        "house_no ADDRESS",
                        "zip POSTCODE",
                        "municipality TOWN",
                        "dob BIRTH_DATE",
                        "passport_no IDENTIFIER");
    }

    /** A number of posts is no postcode, and a household no house. */
    @Test
    void whatOnlyLooksLikeItIsLeftOut() {
        assertThat(kinds(
                        new Column("posts", ColumnType.INTEGER, ColumnRole.ATTRIBUTE),
                        text("household_size"),
                        text("zipped_file")))
                .isEmpty();
    }
}

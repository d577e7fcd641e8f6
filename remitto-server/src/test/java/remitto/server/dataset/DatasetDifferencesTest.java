package remitto.server.dataset;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;

class DatasetDifferencesTest {
    private static final Column KEY = new Column("id", ColumnType.TEXT, ColumnRole.KEY);
    private static final Column NAME = new Column("name", ColumnType.TEXT, ColumnRole.ATTRIBUTE);

    private static DatasetDefinition definition(String sql, Column... columns) {
        return new DatasetDefinition(new DatasetDefinition.Query.SqlQuery(sql), List.of(columns));
    }

    @Test
    void sameIsSame() {
        var differing = DatasetDifferences.between(definition("select 1", KEY), definition("select 1", KEY));
        assertThat(differing.columns()).isEmpty();
        assertThat(differing.before()).isEqualTo(differing.after());
    }

    @Test
    void columnsThatCameWentOrChangedAreNamedInTheirOrder() {
        Column dated = new Column("since", ColumnType.DATE, ColumnRole.ATTRIBUTE);
        Column secret = new Column("name", ColumnType.TEXT, ColumnRole.SENSITIVE);
        var differing = DatasetDifferences.between(
                definition("select a", KEY, NAME, dated), definition("select b", secret, KEY));
        assertThat(differing.columns())
                .containsExactly(
                        new DatasetDifferences.ColumnDifference("name", Optional.of(NAME), Optional.of(secret)),
                        new DatasetDifferences.ColumnDifference("since", Optional.of(dated), Optional.empty()));
        assertThat(differing.before()).isEqualTo("select a");
        assertThat(differing.after()).isEqualTo("select b");
    }

    @Test
    void aTableQueryIsComparedAsTheTextItBecomes() {
        var table = new DatasetDefinition.Query.TableQuery(
                "ferry", "ports", List.of("id", "Name"), Optional.of("zone = 'N'"));
        var differing = DatasetDifferences.between(
                new DatasetDefinition(table, List.of(KEY)), definition("select id from ferry.ports", KEY));
        assertThat(differing.before()).isEqualTo("select id, \"Name\"\nfrom ferry.ports\nwhere zone = 'N'");
    }
}

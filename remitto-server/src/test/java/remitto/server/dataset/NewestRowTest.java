package remitto.server.dataset;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;

class NewestRowTest {
    private static final Instant NOW = Instant.parse("2026-11-27T12:00:00Z");

    private static DatasetDefinition dataset(ColumnRole role, ColumnType type) {
        return new DatasetDefinition(
                new DatasetDefinition.Query.SqlQuery("select id, at from rows"),
                List.of(new Column("id", ColumnType.TEXT, ColumnRole.KEY), new Column("at", type, role)));
    }

    @Test
    void theLatestOfAllRowsInAnyOrder() {
        NewestRow newest = new NewestRow(dataset(ColumnRole.UPDATED_AT, ColumnType.TIMESTAMP));
        newest.see(new String[] {"a", "2026-11-26 08:00:00+00"});
        newest.see(new String[] {"b", "2026-11-27 09:30:00+00"});
        newest.see(new String[] {"c", null});
        newest.see(new String[] {"d", "2026-11-27 09:29:59+00"});
        Datasets.Freshness freshness = newest.freshness(4, NOW);
        assertThat(freshness.newestRow()).contains(Instant.parse("2026-11-27T09:30:00Z"));
        assertThat(freshness.rows()).isEqualTo(4);
        assertThat(freshness.seenAt()).isEqualTo(NOW);
    }

    @Test
    void aDayIsTheBeginningOfIt() {
        NewestRow newest = new NewestRow(dataset(ColumnRole.UPDATED_AT, ColumnType.DATE));
        newest.see(new String[] {"a", "2026-11-26"});
        assertThat(newest.freshness(1, NOW).newestRow()).contains(Instant.parse("2026-11-26T00:00:00Z"));
    }

    @Test
    void withoutSuchAColumnOrWithoutRowsNothingIsSaid() {
        NewestRow none = new NewestRow(dataset(ColumnRole.ATTRIBUTE, ColumnType.TIMESTAMP));
        none.see(new String[] {"a", "2026-11-26 08:00:00+00"});
        assertThat(none.freshness(1, NOW).newestRow()).isEmpty();
        assertThat(new NewestRow(dataset(ColumnRole.UPDATED_AT, ColumnType.TIMESTAMP))
                        .freshness(0, NOW)
                        .newestRow())
                .isEmpty();
    }
}

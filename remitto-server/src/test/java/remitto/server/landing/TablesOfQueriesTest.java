package remitto.server.landing;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.server.dataset.DatasetDefinition.Query;

/** Which queries read a table; one too many holds leavers back that have left, one too few lets some leave that have not. */
class TablesOfQueriesTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "select no from landed.berths               | true",
                "select no from \"landed\".\"berths\" b      | true",
                "SELECT NO FROM LANDED.BERTHS               | true",
                "select x from landed.ships join berths on true | true",
                "select berths_no from landed.ships         | false",
                "select no from landed.old_berths           | false",
                "select no from landed.berths2              | false"
            })
    void aNameCountsWhereItStandsByItself(String sql, boolean reads) {
        assertThat(LandedSchema.reads(new Query.SqlQuery(sql), "berths")).isEqualTo(reads);
    }

    @ParameterizedTest
    @CsvSource({"berths, true", "Berths, false", "ships, false"})
    void aTableIsReadByItsName(String table, boolean reads) {
        assertThat(LandedSchema.reads(new Query.TableQuery("landed", table, List.of("no"), Optional.empty()), "berths"))
                .isEqualTo(reads);
    }
}

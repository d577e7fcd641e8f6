package remitto.server.dataset;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import remitto.server.dataset.DatasetDefinition.Query;

class DatasetDefinitionTest {
    @Test
    void aTableWithTickedColumnsBecomesSql() {
        assertThat(new Query.TableQuery("ferry", "ports", List.of("code", "name"), Optional.empty()).text())
                .isEqualTo("select code, name\nfrom ferry.ports");
        assertThat(new Query.TableQuery("ferry", "ports", List.of("code"), Optional.of("country = 'NO'")).text())
                .isEqualTo("select code\nfrom ferry.ports\nwhere country = 'NO'");
    }

    @Test
    void namesThatNeedQuotesGetThem() {
        assertThat(new Query.TableQuery("Ferry", "my \"table\"", List.of("Id"), Optional.empty()).text())
                .isEqualTo("select \"Id\"\nfrom \"Ferry\".\"my \"\"table\"\"\"");
    }
}

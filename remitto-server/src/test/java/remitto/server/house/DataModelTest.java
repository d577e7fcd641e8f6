package remitto.server.house;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import remitto.server.harness.MigratedTemplate;
import remitto.server.harness.TestCluster;

/** The list of tables in the design is that of the database. */
class DataModelTest {
    private static final Pattern NAME = Pattern.compile("`([a-z_]+(?:\\.[a-z_]+)?)`");

    private static Set<String> told() throws IOException {
        String design = Files.readString(Path.of("..", "docs", "design.md"));
        int from = design.indexOf("## Data model");
        String list = design.substring(design.indexOf("| --- | --- |", from), design.indexOf("```", from));
        Set<String> names = new TreeSet<>();
        NAME.matcher(list).results().forEach(found -> names.add(found.group(1)));
        return names;
    }

    /** Of the migrations alone: tables that the server makes for itself while it runs are no part of the model, nor are partitions. */
    private static Set<String> there(TestCluster cluster) {
        String names = cluster.text(MigratedTemplate.of(cluster), """
                select string_agg(case when n.nspname = 'public' then c.relname else n.nspname || '.' || c.relname end, ' ')
                from pg_class c join pg_namespace n on n.oid = c.relnamespace
                where c.relkind in ('r', 'p') and not c.relispartition
                  and n.nspname not in ('pg_catalog', 'information_schema') and n.nspname not like 'pg\\_%'
                  and c.relname <> 'flyway_schema_history'
                """);
        return new TreeSet<>(List.of(names.split(" ")));
    }

    @Test
    void everyTableHasAKey() {
        assertThat(TestCluster.given().text(MigratedTemplate.of(TestCluster.given()), """
                select coalesce(string_agg(c.oid::regclass::text, ' '), '') from pg_class c
                where c.relkind in ('r', 'p') and not c.relispartition
                  and c.relnamespace::regnamespace::text not in ('pg_catalog', 'information_schema')
                  and not exists (select from pg_index i where i.indrelid = c.oid and i.indisprimary)
                """))
                .isEmpty();
    }

    @Test
    void everyTableIsInTheDesignAndNoOther() throws IOException {
        assertThat(told()).containsExactlyElementsOf(there(TestCluster.given()));
    }
}

package remitto.server.source;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;
import remitto.connect.source.RowSource;
import remitto.server.harness.TestFiles;
import remitto.server.harness.TestServer;

/** Rows of files, from the file to where datasets are read. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class FileSourceTest extends RowSourceContract {
    private TestServer server;
    private TestFiles files;

    @BeforeAll
    void start() {
        server = TestServer.start();
        files = new TestFiles(server, server.user("EDITOR"), "quay");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    @Override
    String schema() {
        return Sources.LANDED;
    }

    @Override
    List<String> added() {
        return List.of("_file", "_line", "_original");
    }

    @Override
    RowSource source(SourceTable... tables) {
        server.cluster().run(server.database(), """
                drop schema landed cascade; drop schema landing cascade; create schema landed; create schema landing;
                alter schema landed owner to remitto; alter schema landing owner to remitto;
                truncate file_set cascade;
                """);
        for (SourceTable table : tables) {
            files.put(table.name() + ".csv", csv(table));
            Map<String, Object> definition = TestFiles.definition(table.name() + ".csv", TestFiles.EACH_ADDS);
            definition.put(
                    "columns",
                    table.columns().stream()
                            .map(column -> Map.of(
                                    "name", column.name(),
                                    "from", column.name(),
                                    "type", column.type().name(),
                                    "spelling", ""))
                            .toList());
            long set = files.add(table.name(), definition);
            files.read(set);
            if (!files.log(set)
                    .equals(List.of(table.name() + ".csv READ " + table.rows().size() + " 0"))) {
                throw new AssertionError(files.log(set).toString());
            }
        }
        server.bean(Sources.class).test(files.source());
        return server.bean(Sources.class).rows(files.source());
    }

    private static String csv(SourceTable table) {
        return table.names().stream().map(FileSourceTest::cell).collect(Collectors.joining(",")) + "\r\n"
                + table.rows().stream()
                        .map(row -> row.stream().map(FileSourceTest::cell).collect(Collectors.joining(",")) + "\r\n")
                        .collect(Collectors.joining());
    }

    private static String cell(@Nullable String text) {
        return text == null ? "" : "\"" + text.replace("\"", "\"\"") + "\"";
    }
}

package remitto.server.source;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;
import remitto.connect.source.RowSource;
import remitto.server.harness.TestReceiver;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.json.JsonMapper;

/** Rows of calls, from the call to where datasets are read. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class CallSourceTest extends RowSourceContract {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private TestServer server;
    private TestUser editor;
    private int made;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
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
        return List.of("_call", "_number", "_received", "_event", "_original");
    }

    @Override
    RowSource source(SourceTable... tables) {
        server.cluster().run(server.database(), """
                drop schema landed cascade; drop schema landing cascade; create schema landed; create schema landing;
                alter schema landed owner to remitto; alter schema landing owner to remitto;
                truncate receiver cascade;
                """);
        long source = editor.post("/api/sources", Map.of("name", "calls " + made++, "address", Map.of("kind", "calls")))
                .ok()
                .get("id")
                .asLong();
        for (SourceTable table : tables) {
            called(source, table);
        }
        server.bean(Sources.class).test(source);
        return server.bean(Sources.class).rows(source);
    }

    /** Every row is a record of one call, so that they come in the order of the table. */
    private void called(long source, SourceTable table) {
        Map<String, Object> definition = TestReceiver.definition(TestReceiver.OPEN, "");
        definition.put(
                "columns",
                table.columns().stream()
                        .map(column -> Map.of(
                                "name", column.name(),
                                "from", column.name(),
                                "type", column.type().name(),
                                "spelling", ""))
                        .toList());
        definition.put("mostKilobytes", 4_096);
        TestReceiver receiver = new TestReceiver(server, editor, source, table.name(), definition);
        if (!table.rows().isEmpty()) {
            String body = JSON.writeValueAsString(
                    table.rows().stream().map(row -> record(table.names(), row)).toList());
            if (receiver.call(body).statusCode() != 200) {
                throw new AssertionError("the call was not taken");
            }
            receiver.settled();
            if (!receiver.calls().equals(List.of("KEPT " + table.rows().size()))) {
                throw new AssertionError(receiver.calls().toString());
            }
        }
    }

    private static Map<String, @Nullable String> record(List<String> names, List<? extends @Nullable String> row) {
        Map<String, @Nullable String> record = new LinkedHashMap<>();
        for (int i = 0; i < names.size(); i++) {
            record.put(names.get(i), row.get(i));
        }
        return record;
    }
}

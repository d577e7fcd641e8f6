package remitto.server.destination;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.file.FileLayout;
import remitto.server.platform.ActorName;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** The files that a destination takes. */
@Component
class FileLayouts {
    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;

    FileLayouts(JdbcClient jdbc, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /**
     * A file layout with who saved it and which routes write it.
     *
     * @param routes that write it, by name
     */
    record SavedFileLayout(FileLayout layout, @ActorName String savedBy, Instant savedAt, List<String> routes) {}

    List<FileLayout> of(long destination) {
        return jdbc.sql("select definition from file_layout where destination_id = ? order by name")
                .param(destination)
                .query((row, number) -> json.read(row.getString("definition"), FileLayout.class))
                .list();
    }

    List<SavedFileLayout> all(long destination) {
        return jdbc.sql("select * from file_layout where destination_id = ? order by name")
                .param(destination)
                .query((row, number) -> new SavedFileLayout(
                        json.read(row.getString("definition"), FileLayout.class),
                        row.getString("saved_by"),
                        Rows.time(row, "saved_at"),
                        routes(destination, row.getString("name"))))
                .list();
    }

    private List<String> routes(long destination, String name) {
        return jdbc.sql("select name from route where destination_id = ? and object = ? order by name")
                .params(destination, name)
                .query(String.class)
                .list();
    }

    void save(long destination, FileLayout layout, String who) {
        jdbc.sql("""
                        insert into file_layout (destination_id, name, definition, saved_by, saved_at) values (?, ?, ?::jsonb, ?, ?)
                        on conflict (destination_id, name) do update set definition = excluded.definition,
                          saved_by = excluded.saved_by, saved_at = excluded.saved_at
                        """)
                .params(destination, layout.name(), json.write(layout), who, Rows.time(clock.instant()))
                .update();
    }

    /** @throws Problem if a route writes it */
    void remove(long destination, String name) {
        List<String> routes = routes(destination, name);
        if (!routes.isEmpty()) {
            throw Problem.conflict(name + " is written by " + String.join(", ", routes) + ".");
        }
        jdbc.sql("delete from file_layout where destination_id = ? and name = ?")
                .params(destination, name)
                .update();
    }
}

package remitto.server.archive;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Takes things out of lists and out of service, unless something uses them. */
@Component
public class Archive {
    private final JdbcClient jdbc;
    private final Clock clock;
    private final Journal journal;

    Archive(JdbcClient jdbc, Clock clock, Journal journal) {
        this.jdbc = jdbc;
        this.clock = clock;
        this.journal = journal;
    }

    /**
     * Archives something and writes it in the journal.
     *
     * @throws Problem naming who uses it; a name that was archived is free again
     */
    @Transactional
    public void archive(Archivable kind, String id, String who) {
        String name = archive(kind, id);
        long number = kind == Archivable.PROFILE ? 0 : Long.parseLong(id);
        journal.write(who, "archived " + kind.table(), new Journal.Subject(kind.table(), number, name), "");
    }

    /** Who uses it, in words that follow "is used by". */
    List<String> uses(Archivable kind, String id) {
        return kind.uses().stream()
                .flatMap(sql -> jdbc.sql(sql).param("id", id).query(String.class).list().stream())
                .toList();
    }

    /**
     * @return the name it had
     * @throws Problem naming who uses it; a name that was archived is free again
     */
    private String archive(Archivable kind, String id) {
        String name = lock(kind, id).orElseThrow(() -> Problem.notFound(kind.table() + " " + id));
        List<String> uses = uses(kind, id);
        if (!uses.isEmpty()) {
            throw new Problem(
                    HttpStatus.CONFLICT,
                    name + " is used by " + String.join(", ", uses.subList(0, Math.min(5, uses.size())))
                            + (uses.size() > 5 ? " and " + (uses.size() - 5) + " more" : "") + ".",
                    uses.stream().map(use -> new Problem.Detail("use", use)).toList());
        }
        if (kind == Archivable.ROUTE) {
            jdbc.sql("update route set live_version = null, next_departure = null where id = :id::bigint")
                    .param("id", id)
                    .update();
        }
        String rename = kind.hasName() ? ", name = name || ' (archived ' || id || ')'" : "";
        jdbc.sql("update " + kind.table() + " set archived_at = :now" + rename + " where " + kind.key()
                        + "::text = :id")
                .param("now", Rows.time(clock.instant()))
                .param("id", id)
                .update();
        return name;
    }

    private Optional<String> lock(Archivable kind, String id) {
        return jdbc.sql("select " + (kind.hasName() ? "name" : "profile") + " from " + kind.table() + " where "
                        + kind.key() + "::text = :id and archived_at is null for update")
                .param("id", id)
                .query(String.class)
                .optional();
    }
}

package remitto.server.journal;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.masking.Personal;
import remitto.server.permission.ActorNames;
import remitto.server.platform.Rows;

/** Who changed what, when. Append-only, held so by the database itself. Carries no personal values. */
@Component
public class Journal {
    private static final int PAGE = 100;

    private final JdbcClient jdbc;
    private final ActorNames names;
    private final Clock clock;

    Journal(JdbcClient jdbc, ActorNames names, Clock clock) {
        this.jdbc = jdbc;
        this.names = names;
        this.clock = clock;
    }

    public record Entry(
            long id,
            Instant at,
            String actor,
            String action,
            String subjectKind,
            long subjectId,
            String subject,
            @Personal(Personal.Part.IN_TEXT) String detail) {}

    /** What an entry is about. */
    public record Subject(String kind, long id, String name) {}

    /** @param actor the id of an account, or what acted by itself; the name is kept as it is now */
    public void write(String actor, String action, Subject subject, String detail) {
        jdbc.sql("""
                        insert into journal (at, actor, actor_id, action, subject_kind, subject_id, subject, detail)
                        values (?, ?, ?, ?, ?, ?, ?, ?)
                        """)
                .params(
                        Rows.time(clock.instant()),
                        names.of(actor),
                        ActorNames.isUser(actor) ? Long.valueOf(actor) : null,
                        action,
                        subject.kind(),
                        subject.id(),
                        subject.name(),
                        detail)
                .update();
    }

    /** The entries before one, newest first; from the newest when {@code before} is 0. */
    List<Entry> page(long before, String find) {
        return jdbc.sql("""
                        select id, at, actor, action, subject_kind, subject_id, subject, detail from journal
                        where (:before = 0 or id < :before)
                          and (:find = '' or actor || ' ' || action || ' ' || subject || ' ' || detail ilike '%' || :find || '%')
                        order by id desc limit :limit
                        """)
                .param("before", before)
                .param("find", find)
                .param("limit", PAGE)
                .query((row, number) -> new Entry(
                        row.getLong("id"),
                        Rows.time(row, "at"),
                        row.getString("actor"),
                        row.getString("action"),
                        row.getString("subject_kind"),
                        row.getLong("subject_id"),
                        row.getString("subject"),
                        row.getString("detail")))
                .list();
    }
}

package remitto.server.destination;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.destination.ObjectDescription;
import remitto.core.destination.SchemaChange;
import remitto.server.platform.ActorName;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** What destinations describe differently than before, with how many known records that concerns. */
@Component
public class SchemaChanges {
    /** Records there, as far as known, that hold a value the change concerns. */
    private static final String CONCERNED = """
             from destination_record d where d.destination_id = :destination and d.object = :object and case :kind
               when 'NEW' then false
               when 'SHRUNK' then length(d.fields ->> :field) > nullif(:value, '')::int
               when 'CHOICE_GONE' then d.fields ->> :field = :value
               when 'REQUIRED' then coalesce(d.fields ->> :field, '') = ''
               else jsonb_exists(d.fields, :field) end
            """;

    /** Who has seen what settled itself. */
    private static final String SETTLED = "Remitto";

    private final JdbcClient jdbc;
    private final Clock clock;

    SchemaChanges(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * A change that was noticed.
     *
     * @param affected known records it affected then
     * @param seenBy blank while nobody has
     */
    public record NoticedChange(
            long id,
            long destinationId,
            String destination,
            String object,
            SchemaChange.Kind kind,
            String field,
            String text,
            long affected,
            Instant noticedAt,
            @ActorName String seenBy) {}

    /** A record a change concerns. */
    public record ConcernedRecord(String remoteId, @Personal String value) {}

    void compare(long destinationId, ObjectDescription before, ObjectDescription now) {
        List<SchemaChange> fresh = SchemaChange.between(before, now);
        settle(destinationId, now, fresh);
        for (SchemaChange change : fresh) {
            long affected = bind(jdbc.sql("select count(*)" + CONCERNED), destinationId, now.name(), change)
                    .query(Long.class)
                    .single();
            jdbc.sql("""
                            insert into schema_change (destination_id, object, kind, field, value, text, affected, noticed_at)
                            values (?, ?, ?, ?, ?, ?, ?, ?)
                            """)
                    .params(
                            destinationId,
                            now.name(),
                            change.kind().name(),
                            change.field(),
                            change.value(),
                            change.text(),
                            affected,
                            Rows.time(clock.instant()))
                    .update();
        }
    }

    /** One card a cause, and none for what is over: a login that was changed there and back leaves nothing to look at. */
    private void settle(long destinationId, ObjectDescription now, List<SchemaChange> fresh) {
        List<Long> settled = new ArrayList<>();
        jdbc.sql("""
                        select id, kind, field, value, text from schema_change
                        where destination_id = ? and object = ? and seen_by = ''
                        """).params(destinationId, now.name()).query(row -> {
            SchemaChange open = new SchemaChange(
                    SchemaChange.Kind.valueOf(row.getString("kind")),
                    row.getString("field"),
                    row.getString("value"),
                    row.getString("text"));
            if (open.isOver(now) || fresh.stream().anyMatch(one -> one.replaces(open))) {
                settled.add(row.getLong("id"));
            }
        });
        settled.forEach(id -> seen(id, SETTLED));
    }

    private static JdbcClient.StatementSpec bind(
            JdbcClient.StatementSpec sql, long destinationId, String object, SchemaChange change) {
        return sql.param("destination", destinationId)
                .param("object", object)
                .param("kind", change.kind().name())
                .param("field", change.field())
                .param("value", change.value());
    }

    /** Changes of every destination that may do harm and that nobody has seen yet, newest first. */
    public List<NoticedChange> unseen() {
        return list("where c.seen_by = '' and c.kind <> 'NEW'", 0);
    }

    List<NoticedChange> of(long destinationId) {
        return list("where c.destination_id = :destination", destinationId);
    }

    private List<NoticedChange> list(String where, long destinationId) {
        return jdbc.sql("""
                        select c.*, d.name as destination from schema_change c
                        join destination d on d.id = c.destination_id
                        """ + where + " order by c.id desc limit 100")
                .param("destination", destinationId)
                .query((row, number) -> new NoticedChange(
                        row.getLong("id"),
                        row.getLong("destination_id"),
                        row.getString("destination"),
                        row.getString("object"),
                        SchemaChange.Kind.valueOf(row.getString("kind")),
                        row.getString("field"),
                        row.getString("text"),
                        row.getLong("affected"),
                        Rows.time(row, "noticed_at"),
                        row.getString("seen_by")))
                .list();
    }

    /** What changed in an object since a moment, in words. */
    public List<String> since(long destinationId, String object, Instant since) {
        return jdbc.sql("""
                        select text from schema_change
                        where destination_id = ? and object = ? and noticed_at >= ? and kind <> 'NEW' order by id
                        """)
                .params(destinationId, object, Rows.time(since))
                .query(String.class)
                .list();
    }

    List<ConcernedRecord> concerned(long id, int limit) {
        NoticedChange change = list("where c.id = :destination", id).stream()
                .findFirst()
                .orElseThrow(() -> Problem.notFound("change " + id));
        String value = jdbc.sql("select value from schema_change where id = ?")
                .param(id)
                .query(String.class)
                .single();
        return bind(
                        jdbc.sql("select d.remote_id, coalesce(d.fields ->> :field, '') as held" + CONCERNED
                                + " order by d.id limit :limit"),
                        change.destinationId(),
                        change.object(),
                        new SchemaChange(change.kind(), change.field(), value, ""))
                .param("limit", limit)
                .query((row, number) -> new ConcernedRecord(row.getString("remote_id"), row.getString("held")))
                .list();
    }

    void seen(long id, String who) {
        jdbc.sql("update schema_change set seen_by = ? where id = ?")
                .params(who, id)
                .update();
    }
}

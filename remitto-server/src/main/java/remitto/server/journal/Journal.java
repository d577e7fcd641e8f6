package remitto.server.journal;

import java.security.SecureRandom;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.permission.ActorNames;
import remitto.server.platform.Personal;
import remitto.server.platform.Rows;

/**
 * Who changed what, when. Append-only, held so by the database itself. The words of an entry, which may name somebody, are kept beside
 * it: they can be erased, and the entry stays.
 */
@Component
public class Journal {
    /** Stands where the words of an entry were erased, or are kept no longer. */
    static final String ERASED = "no longer kept";

    private static final int PAGE = 100;
    private static final int SALT = 16;

    private final JdbcClient jdbc;
    private final ActorNames names;
    private final Clock clock;
    private final SecureRandom random = new SecureRandom();

    Journal(JdbcClient jdbc, ActorNames names, Clock clock) {
        this.jdbc = jdbc;
        this.names = names;
        this.clock = clock;
    }

    /** A value of ours and the destination's value for it. */
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
        String told = detail.replace("\u0000", "");
        String name = subject.name().replace("\u0000", "");
        byte[] salt = new byte[SALT];
        random.nextBytes(salt);
        jdbc.sql("""
                        with entry as (
                          insert into ledger.journal (at, actor, actor_id, action, subject_kind, subject_id, words)
                          values (:at, :actor, :user, :action, :kind, :id, :words) returning id)
                        insert into journal_words (journal_id, subject, detail, salt)
                        select id, :subject, :detail, :salt from entry
                        """)
                .param("at", Rows.time(clock.instant().truncatedTo(ChronoUnit.MICROS)))
                .param("actor", names.of(actor))
                .param("user", ActorNames.isUser(actor) ? Long.valueOf(actor) : null)
                .param("action", action)
                .param("kind", subject.kind())
                .param("id", subject.id())
                .param("words", JournalChain.words(salt, name, told))
                .param("subject", name)
                .param("detail", told)
                .param("salt", salt)
                .update();
    }

    /** The entries before one, newest first; from the newest when {@code before} is 0. */
    List<Entry> page(long before, String find) {
        return jdbc.sql("""
                        select j.id, at, actor, action, subject_kind, subject_id, coalesce(subject, :erased) as subject,
                          coalesce(detail, '') as detail
                        from ledger.journal j left join journal_words w on w.journal_id = j.id
                        where (:before = 0 or j.id < :before)
                          and (:find = '' or concat_ws(' ', actor, action, subject, detail) ilike '%' || :find || '%')
                        order by j.id desc limit :limit
                        """)
                .param("before", before)
                .param("find", find)
                .param("erased", ERASED)
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

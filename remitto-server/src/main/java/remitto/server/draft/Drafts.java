package remitto.server.draft;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;

/** The drafts of every account. Each question names the account, so that nobody reads what another is editing. */
@Component
class Drafts {
    /** Longer than any definition that could be saved. */
    static final int MOST_CHARACTERS = 2_000_000;

    /** The oldest give way to new ones beyond this many. */
    static final int MOST_PER_ACCOUNT = 100;

    static final Duration KEPT_FOR = Duration.ofDays(90);

    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;

    Drafts(JdbcClient jdbc, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /**
     * A draft without what it holds.
     *
     * @param subject the id of what is edited, or "new"
     * @param title what its editor calls it
     * @param basedOn the version that the edit began from
     * @param savedAt when it was last kept, UTC
     */
    record DraftEntry(DraftKind kind, String subject, String title, int basedOn, Instant savedAt) {}

    List<DraftEntry> all(long account) {
        return jdbc.sql("""
                        select kind, subject, title, based_on, saved_at from draft
                        where user_id = ? and saved_at > ? order by saved_at desc
                        """)
                .params(account, oldest())
                .query((row, number) -> new DraftEntry(
                        DraftKind.valueOf(row.getString("kind")),
                        row.getString("subject"),
                        row.getString("title"),
                        row.getInt("based_on"),
                        row.getTimestamp("saved_at").toInstant()))
                .list();
    }

    Optional<Draft> find(long account, DraftKind kind, String subject) {
        return jdbc.sql("""
                        select title, based_on, content, saved_at from draft
                        where user_id = ? and kind = ? and subject = ? and saved_at > ?
                        """)
                .params(account, kind.name(), subject, oldest())
                .query((row, number) -> new Draft(
                        kind,
                        subject,
                        row.getString("title"),
                        row.getInt("based_on"),
                        content(row.getString("content")),
                        row.getTimestamp("saved_at").toInstant()))
                .optional();
    }

    /** @throws Problem if it is too long, or names nothing that can be edited */
    @Transactional
    Draft keep(long account, DraftKind kind, String subject, String title, int basedOn, Map<String, Object> content) {
        if (title.length() > 300 || subject.isBlank() || subject.length() > 200 || basedOn < 0) {
            throw Problem.invalid("A draft names what is edited, by its id or as new, and the version it began from.");
        }
        String text = json.write(content);
        if (text.length() > MOST_CHARACTERS) {
            throw Problem.invalid("This edit is too long to be kept as a draft. Save it.");
        }
        Instant now = clock.instant();
        jdbc.sql("""
                        insert into draft (user_id, kind, subject, title, based_on, content, saved_at) values (?, ?, ?, ?, ?, ?, ?)
                        on conflict (user_id, kind, subject)
                        do update set title = excluded.title, based_on = excluded.based_on, content = excluded.content, saved_at = excluded.saved_at
                        """)
                .params(account, kind.name(), subject, title, basedOn, text, now.atOffset(ZoneOffset.UTC))
                .update();
        jdbc.sql("""
                        delete from draft where user_id = ? and (saved_at <= ? or (kind, subject) in (
                          select kind, subject from draft where user_id = ? order by saved_at desc offset ?))
                        """).params(account, oldest(), account, MOST_PER_ACCOUNT).update();
        return new Draft(kind, subject, title, basedOn, content, now);
    }

    void discard(long account, DraftKind kind, String subject) {
        jdbc.sql("delete from draft where user_id = ? and kind = ? and subject = ?")
                .params(account, kind.name(), subject)
                .update();
    }

    private java.time.OffsetDateTime oldest() {
        return clock.instant().minus(KEPT_FOR).atOffset(ZoneOffset.UTC);
    }

    @SuppressWarnings("unchecked")
    private Map<String, Object> content(String text) {
        return json.read(text, Map.class);
    }
}

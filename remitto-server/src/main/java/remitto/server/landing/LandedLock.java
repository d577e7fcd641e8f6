package remitto.server.landing;

import java.time.Duration;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.dao.CannotAcquireLockException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Problem;

/**
 * Keeps two servers from bringing in the same rows at once, and an erasure from missing rows that are being brought in. Held until the
 * transaction ends.
 */
@Component
public class LandedLock {
    private static final Duration LONGEST = Duration.ofSeconds(30);

    private final JdbcTemplate template;
    private final JdbcClient jdbc;
    private final Duration longest;

    @Autowired
    LandedLock(JdbcTemplate template, JdbcClient jdbc) {
        this(template, jdbc, LONGEST);
    }

    LandedLock(JdbcTemplate template, JdbcClient jdbc, Duration longest) {
        this.template = template;
        this.jdbc = jdbc;
        this.longest = longest;
    }

    /** What rows are brought in from. */
    public enum Of {
        FILE_SET(7041890),
        RECEIVER(7041891);

        private final int space;

        Of(int space) {
            this.space = space;
        }
    }

    /** @return whether nobody else has it */
    public boolean isFree(Of of, long id) {
        return jdbc.sql("select pg_try_advisory_xact_lock(?, ?::int)")
                .params(of.space, id)
                .query(Boolean.class)
                .single();
    }

    /**
     * Waits for whoever has it.
     *
     * @param name of what is brought in, as it is told
     * @throws Problem if that takes longer than half a minute
     */
    public void take(Of of, long id, String name) {
        template.execute("set local lock_timeout = " + longest.toMillis());
        try {
            jdbc.sql("select pg_advisory_xact_lock(?, ?::int)")
                    .params(of.space, id)
                    .query(row -> {});
        } catch (CannotAcquireLockException e) {
            throw Problem.conflict(
                    "Rows of " + name + " are being imported, and a row that is not yet stored cannot be erased."
                            + " Try again when the import has finished.");
        }
        template.execute("set local lock_timeout to default");
    }
}

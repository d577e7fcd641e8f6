package remitto.server.retention;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.function.ToLongFunction;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.manifest.OldLines;
import remitto.server.platform.Rows;

/** Removes what is kept no longer. Each kind on its own: one that cannot be removed now keeps no other. */
@Component
class Removal {
    private static final Logger LOG = LoggerFactory.getLogger(Removal.class);

    private final Retention retention;
    private final OldLines lines;
    private final JdbcClient jdbc;
    private final Clock clock;

    Removal(Retention retention, OldLines lines, JdbcClient jdbc, Clock clock) {
        this.retention = retention;
        this.lines = lines;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** Removes all that is due. */
    void removeDue() {
        for (RetentionKind kind : List.of(RetentionKind.values())) {
            retention.days(kind).ifPresent(days -> remove(kind, clock.instant().minus(Duration.ofDays(days))));
        }
    }

    private void remove(RetentionKind kind, Instant before) {
        ToLongFunction<Instant> how =
                switch (kind) {
                    case MANIFEST_LINES -> lines::remove;
                    case STOCKTAKE_FINDINGS -> this::findings;
                    case JOURNAL_WORDS -> this::words;
                };
        try {
            long removed = how.applyAsLong(before);
            if (removed > 0) {
                LOG.info("{}: what is older than {} was removed ({})", kind.title(), before, removed);
            }
        } catch (RuntimeException e) {
            LOG.warn("{} could not be removed and will be later: {}", kind.title(), e.getMessage());
        }
    }

    private long findings(Instant before) {
        return jdbc.sql(
                        "delete from stocktake_finding f using stocktake s where s.id = f.stocktake_id and s.finished_at < ?")
                .param(Rows.time(before))
                .update();
    }

    private long words(Instant before) {
        return jdbc.sql("delete from journal_words w using ledger.journal j where j.id = w.journal_id and j.at < ?")
                .param(Rows.time(before))
                .update();
    }
}

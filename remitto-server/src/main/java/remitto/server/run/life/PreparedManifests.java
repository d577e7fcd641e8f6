package remitto.server.run.life;

import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.run.RunEnd;
import remitto.server.held.HeldRecords;
import remitto.server.manifest.Lines;
import remitto.server.run.Prepared;
import remitto.server.run.RunLost;
import remitto.server.run.Runs;
import remitto.server.run.Tenure;

/** Closes the preparing of manifests: what they hold, their sums and their state are there all at once. */
@Component
class PreparedManifests {
    private static final Logger LOG = LoggerFactory.getLogger(PreparedManifests.class);
    private static final int LARGE = 2_000;

    private final Runs runs;
    private final Lines lines;
    private final HeldRecords held;
    private final TransactionTemplate transaction;

    PreparedManifests(Runs runs, Lines lines, HeldRecords held, TransactionTemplate transaction) {
        this.runs = runs;
        this.lines = lines;
        this.held = held;
        this.transaction = transaction;
    }

    /**
     * A manifest that waits for nobody is sent from then on: it is never seen to wait, and does not, whatever ends its server.
     *
     * @param who lets it go
     * @return the right to send it
     * @throws RunLost as {@link #close}
     */
    Optional<Tenure> closeAndSend(
            long routeId, Tenure tenure, Prepared prepared, String fieldCounts, RunEnd end, boolean whole, String who) {
        settled(tenure, prepared);
        return transaction.execute(status -> {
            write(routeId, tenure, prepared, fieldCounts, end, whole);
            return runs.beginSending(tenure.runId(), who, tenure.owner());
        });
    }

    /**
     * @param fieldCounts as {@link Lines#fieldCounts} gives them
     * @param whole the whole dataset was read, so that what is not held now is held no more
     * @throws RunLost if somebody else has the run by now; nothing is written down then
     */
    void close(long routeId, Tenure tenure, Prepared prepared, String fieldCounts, RunEnd end, boolean whole) {
        settled(tenure, prepared);
        transaction.executeWithoutResult(status -> write(routeId, tenure, prepared, fieldCounts, end, whole));
    }

    private void settled(Tenure tenure, Prepared prepared) {
        if (prepared.counts().moving() > LARGE) {
            lines.settled(tenure.runId());
        }
    }

    private void write(long routeId, Tenure tenure, Prepared prepared, String fieldCounts, RunEnd end, boolean whole) {
        held.prepared(routeId, tenure.runId(), whole);
        if (!runs.prepared(tenure, end, prepared, fieldCounts)) {
            throw new RunLost(tenure.runId());
        }
        LOG.info("Run {} is prepared: {}", tenure.runId(), end.state());
    }
}

package remitto.server.receiver;

import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import remitto.core.receiver.ReceiverDefinition;
import remitto.server.platform.Json;

/**
 * Which receiver an address is of, without asking the database for every call. What another server changed is known after two seconds,
 * and calls to addresses of nobody ask nothing.
 */
@Component
class KnownReceivers {
    private static final Logger LOG = LoggerFactory.getLogger(KnownReceivers.class);
    private static final long LONGEST_NANOS = 2_000_000_000L;

    private final JdbcClient jdbc;
    private final Json json;
    private final ReceiverSecrets secrets;
    private final Clock clock;
    /** How often something changed here. What was read before the latest change may lack it. */
    private final AtomicLong changes = new AtomicLong(1);

    private volatile Snapshot snapshot = new Snapshot(Map.of(), 0, 0);

    KnownReceivers(JdbcClient jdbc, Json json, ReceiverSecrets secrets, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.secrets = secrets;
        this.clock = clock;
    }

    /** A receiver as a call needs it. */
    record Called(long id, ReceiverDefinition definition, ReceiverSecrets.Known secrets) {
        List<String> valid(Instant now) {
            return secrets.valid(now);
        }
    }

    private record Snapshot(Map<String, Called> byHash, long readAt, long changes) {}

    private boolean isFresh(Snapshot known) {
        return known.changes() == changes.get() && System.nanoTime() - known.readAt() < LONGEST_NANOS;
    }

    Optional<Called> by(String code) {
        Snapshot known = snapshot;
        if (!isFresh(known)) {
            known = read();
        }
        return Optional.ofNullable(known.byHash().get(HexFormat.of().formatHex(ReceiverSecrets.hash(code))));
    }

    /** What changed here is asked for at the next call, once it is committed. */
    void forget() {
        if (TransactionSynchronizationManager.isSynchronizationActive()) {
            TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
                @Override
                public void afterCommit() {
                    changes.incrementAndGet();
                }
            });
        } else {
            changes.incrementAndGet();
        }
    }

    private synchronized Snapshot read() {
        Snapshot known = snapshot;
        if (isFresh(known)) {
            return known;
        }
        long at = System.nanoTime();
        long before = changes.get();
        Map<String, Called> byHash = new HashMap<>();
        jdbc.sql("""
                        select r.id, r.definition, r.secret, r.code_hash from receiver r join source s on s.id = r.source_id
                        where r.archived_at is null and s.archived_at is null
                        """).query(row -> {
            long id = row.getLong("id");
            String hash = HexFormat.of().formatHex(row.getBytes("code_hash"));
            String definition = row.getString("definition");
            byte[] kept = row.getBytes("secret");
            try {
                byHash.put(
                        hash, new Called(id, json.read(definition, ReceiverDefinition.class), secrets.open(id, kept)));
            } catch (RuntimeException e) {
                LOG.error("Receiver {} takes no calls: what is stored of it cannot be read", id, e);
            }
        });
        snapshot = new Snapshot(byHash, at, before);
        return snapshot;
    }

    Instant now() {
        return clock.instant();
    }
}

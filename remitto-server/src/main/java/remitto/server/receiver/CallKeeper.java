package remitto.server.receiver;

import jakarta.annotation.PostConstruct;
import jakarta.annotation.PreDestroy;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.receiver.CallVerdict;
import remitto.server.platform.Json;
import remitto.server.platform.Lane;
import remitto.server.platform.Rows;

/**
 * Keeps calls before they are answered. Those that come while others are being committed are committed together, so that many callers
 * wait for one write to the disk.
 */
@Component
class CallKeeper {
    private static final Logger LOG = LoggerFactory.getLogger(CallKeeper.class);
    private static final int MOST_WAITING = 4_000;
    private static final int AT_A_TIME = 500;
    private static final long MOST_BYTES = 32L * 1024 * 1024;

    private final JdbcTemplate template;
    private final TransactionTemplate transactions;
    private final Json json;
    private final CallsDue due;
    private final BlockingQueue<Waiting> waiting = new ArrayBlockingQueue<>(MOST_WAITING);
    private final Thread writer = new Thread(() -> Lane.CALLS.run(this::write), "calls");
    private volatile boolean ended;

    CallKeeper(JdbcTemplate template, TransactionTemplate transactions, Json json, CallsDue due) {
        this.template = template;
        this.transactions = transactions;
        this.json = json;
        this.due = due;
    }

    private record Waiting(ArrivedCall call, CompletableFuture<Boolean> kept) {}

    @PostConstruct
    void begin() {
        writer.setDaemon(true);
        writer.start();
    }

    @PreDestroy
    void end() throws InterruptedException {
        ended = true;
        writer.interrupt();
        writer.join(5_000);
    }

    /**
     * Takes a call.
     *
     * @return done once the call is on disk, or with what went wrong; done with {@code false} at once when too many wait already
     */
    CompletableFuture<Boolean> keep(ArrivedCall call) {
        Waiting one = new Waiting(call, new CompletableFuture<>());
        if (ended || !waiting.offer(one)) {
            one.kept().complete(false);
        }
        return one.kept();
    }

    private void write() {
        while (!ended || !waiting.isEmpty()) {
            List<Waiting> batch = new ArrayList<>();
            try {
                batch.add(waiting.take());
            } catch (InterruptedException e) {
                continue;
            }
            long bytes = batch.get(0).call().body().length;
            while (batch.size() < AT_A_TIME && bytes < MOST_BYTES) {
                Waiting next = waiting.poll();
                if (next == null) {
                    break;
                }
                bytes += next.call().body().length;
                batch.add(next);
            }
            write(batch);
        }
    }

    private void write(List<Waiting> batch) {
        try {
            transactions.executeWithoutResult(status -> insert(batch));
            batch.forEach(one -> one.kept().complete(true));
        } catch (RuntimeException e) {
            LOG.warn("{} calls could not be kept and are answered so", batch.size(), e);
            batch.forEach(one -> one.kept().completeExceptionally(e));
            return;
        }
        Set<Long> receivers = batch.stream()
                .filter(one -> one.call().verdict() == CallVerdict.WAITING)
                .map(one -> one.call().receiver())
                .collect(Collectors.toSet());
        receivers.forEach(due::wake);
    }

    private void insert(List<Waiting> batch) {
        template.batchUpdate(
                "insert into received_call (receiver_id, received_at, headers, body, verdict, problem)"
                        + " values (?, ?, ?::jsonb, ?, ?, ?)",
                batch,
                batch.size(),
                (statement, one) -> {
                    ArrivedCall call = one.call();
                    statement.setLong(1, call.receiver());
                    statement.setObject(2, Rows.time(call.at()));
                    statement.setString(3, json.write(call.headers().values()));
                    statement.setBytes(4, call.body());
                    statement.setString(5, call.verdict().name());
                    statement.setString(6, call.problem());
                });
    }
}

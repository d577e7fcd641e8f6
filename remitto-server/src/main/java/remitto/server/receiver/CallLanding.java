package remitto.server.receiver;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.receiver.CallHeaders;
import remitto.core.receiver.CallVerdict;
import remitto.core.receiver.CallsMean;
import remitto.core.receiver.ReceiverDefinition;
import remitto.server.landing.LandedLock;
import remitto.server.landing.LandedSchema;
import remitto.server.platform.CopyStream;
import remitto.server.platform.CopyText;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;
import remitto.server.source.Sources;

/**
 * Lays calls out in the table of their receiver, many in a transaction: their rows and what became of them come together, or not at
 * all. Another server that does the same receiver is left to it.
 */
@Component
class CallLanding {
    private static final Logger LOG = LoggerFactory.getLogger(CallLanding.class);
    private static final int AT_A_TIME = 500;
    private static final int A_TURN = 4;
    private static final long MOST_BYTES = 32L * 1024 * 1024;

    private final Receivers receivers;
    private final ReceiverTables tables;
    private final Sources sources;
    private final LandedLock lock;
    private final JdbcTemplate template;
    private final JdbcClient jdbc;
    private final TransactionTemplate transactions;
    private final Json json;

    CallLanding(
            Receivers receivers,
            ReceiverTables tables,
            Sources sources,
            LandedLock lock,
            JdbcTemplate template,
            JdbcClient jdbc,
            TransactionTemplate transactions,
            Json json) {
        this.receivers = receivers;
        this.tables = tables;
        this.sources = sources;
        this.lock = lock;
        this.template = template;
        this.jdbc = jdbc;
        this.transactions = transactions;
        this.json = json;
    }

    private record KeptCall(long id, Instant at, CallHeaders headers, byte[] body) {}

    /** What became of a call. */
    private record Outcome(long call, CallVerdict verdict, int records, int rows, String problem) {}

    /** How a turn at a receiver's calls ended. */
    enum Came {
        /** There are more. */
        MORE,
        /** Everything that waited is laid out. */
        DONE,
        /** Another server is at it. */
        NOT_MINE
    }

    /** Lays out what waits, as much as leaves others their turn. */
    Came land(long id) {
        Receivers.Receiver receiver = receivers.get(id);
        if (receiver.catching() || receiver.paused()) {
            return Came.DONE;
        }
        tables.make(id, receiver.revision(), receiver.definition());
        Came came = Came.MORE;
        for (int i = 0; i < A_TURN && came == Came.MORE; i++) {
            came = some(receiver);
        }
        if (came == Came.DONE && receiver.shownRevision() != receiver.revision()) {
            show(receiver);
        }
        return came;
    }

    /** Whoever saved another revision meanwhile has its table laid out next; that is not dropped for this one. */
    private void show(Receivers.Receiver receiver) {
        transactions.executeWithoutResult(status -> {
            if (isToDo(receiver)) {
                tables.show(receiver, receiver.revision());
            }
        });
        sources.test(receiver.sourceId());
    }

    private Came some(Receivers.Receiver receiver) {
        // Bodies may be large, and are all in memory.
        long most = Math.max(1, MOST_BYTES / (receiver.definition().mostKilobytes() * 1024L));
        int atATime = (int) Math.min(AT_A_TIME, most);
        try {
            Came came = batch(receiver, atATime);
            receivers.problem(receiver.id(), "");
            return came;
        } catch (DataIntegrityViolationException e) {
            LOG.warn("Calls of receiver {} cannot be kept together; they are taken one by one", receiver.id(), e);
            return oneByOne(receiver, atATime);
        } catch (RuntimeException e) {
            receivers.problem(
                    receiver.id(), "Calls are kept and could not be laid out; the server's log has the details.");
            throw e;
        }
    }

    /** Whoever cannot be kept is held, and stops nobody else. */
    private Came oneByOne(Receivers.Receiver receiver, int calls) {
        for (int i = 0; i < calls; i++) {
            try {
                Came came = batch(receiver, 1);
                if (came != Came.MORE) {
                    return came;
                }
            } catch (DataIntegrityViolationException e) {
                transactions.executeWithoutResult(status -> hold(receiver));
            }
        }
        return Came.MORE;
    }

    private void hold(Receivers.Receiver receiver) {
        if (isToDo(receiver)) {
            waiting(receiver, 1)
                    .forEach(call -> settle(
                            receiver,
                            List.of(new Outcome(
                                    call.id(),
                                    CallVerdict.HELD,
                                    0,
                                    0,
                                    "PostgreSQL refuses to keep the rows; the server's log has the details."))));
        }
    }

    private boolean isToDo(Receivers.Receiver receiver) {
        return lock.isFree(LandedLock.Of.RECEIVER, receiver.id())
                && receivers.get(receiver.id()).revision() == receiver.revision();
    }

    private Came batch(Receivers.Receiver receiver, int most) {
        return Objects.requireNonNull(transactions.execute(status -> {
            if (!isToDo(receiver)) {
                return Came.NOT_MINE;
            }
            List<KeptCall> calls = waiting(receiver, most);
            if (!calls.isEmpty()) {
                settle(receiver, laidOut(receiver, calls));
            }
            return calls.size() < most ? Came.DONE : Came.MORE;
        }));
    }

    private List<KeptCall> waiting(Receivers.Receiver receiver, int most) {
        return jdbc.sql("""
                        select id, received_at, headers, body from received_call
                        where receiver_id = ? and revision < ? and verdict <> 'REFUSED' order by id limit ?
                        """)
                .params(receiver.id(), receiver.revision(), most)
                .query((row, number) -> call(row))
                .list();
    }

    @SuppressWarnings("unchecked")
    private KeptCall call(ResultSet row) throws SQLException {
        return new KeptCall(
                row.getLong("id"),
                Rows.time(row, "received_at"),
                new CallHeaders(json.read(row.getString("headers"), Map.class)),
                row.getBytes("body"));
    }

    private List<Outcome> laidOut(Receivers.Receiver receiver, List<KeptCall> calls) {
        ReceiverDefinition definition = receiver.definition();
        CallReading reading = new CallReading(definition);
        Map<Long, CallReading.ReadCall> read = new TreeMap<>();
        calls.forEach(call -> read.put(call.id(), reading.read(call.headers(), call.body())));
        Set<String> fresh = fresh(receiver, read);
        Map<Long, Integer> rows = new HashMap<>();
        copy(receiver, calls, read, fresh, rows);
        apply(receiver);
        return calls.stream()
                .map(call -> outcome(call.id(), read.get(call.id()), rows.getOrDefault(call.id(), 0)))
                .toList();
    }

    private static Outcome outcome(long call, CallReading.ReadCall read, int rows) {
        boolean doubles = read.problem().isEmpty() && rows == 0 && !read.rows().isEmpty();
        CallVerdict verdict = CallVerdict.KEPT;
        if (!read.problem().isEmpty()) {
            verdict = CallVerdict.HELD;
        } else if (doubles) {
            verdict = CallVerdict.DOUBLE;
        }
        return new Outcome(call, verdict, read.records(), rows, read.problem());
    }

    private static String event(long call, CallReading.CallRow row) {
        return call + " " + row.number();
    }

    /** The first call of every event that was not known; rows without an event are all new. By call and number. */
    private Set<String> fresh(Receivers.Receiver receiver, Map<Long, CallReading.ReadCall> read) {
        Map<String, String> firsts = new TreeMap<>();
        Map<String, Long> callOf = new HashMap<>();
        Set<String> fresh = new HashSet<>();
        read.forEach((call, one) -> one.rows().forEach(row -> {
            if (row.event().isEmpty()) {
                fresh.add(event(call, row));
            } else if (firsts.putIfAbsent(row.event(), event(call, row)) == null) {
                callOf.put(row.event(), call);
            }
        }));
        if (!firsts.isEmpty()) {
            List<String> events = List.copyOf(firsts.keySet());
            jdbc.sql("""
                            insert into received_event (receiver_id, revision, event, call_id)
                            select ?, ?, e.event, e.call_id from unnest(?::text[], ?::bigint[]) e (event, call_id)
                            on conflict do nothing returning event
                            """)
                    .params(
                            receiver.id(),
                            receiver.revision(),
                            events.toArray(String[]::new),
                            events.stream().map(callOf::get).toArray(Long[]::new))
                    .query(String.class)
                    .list()
                    .forEach(event -> fresh.add(firsts.get(event)));
        }
        return fresh;
    }

    private void copy(
            Receivers.Receiver receiver,
            List<KeptCall> calls,
            Map<Long, CallReading.ReadCall> read,
            Set<String> fresh,
            Map<Long, Integer> rows) {
        boolean latest = tables.marksRemoved(receiver);
        String columns = LandedSchema.list(receiver.definition().names()) + ", " + ReceiverTables.OWN;
        String into = ReceiverTables.table(receiver.id(), receiver.revision()) + " (" + columns + ")";
        if (latest) {
            template.execute("create temporary table " + incoming(receiver) + " (like "
                    + ReceiverTables.table(receiver.id(), receiver.revision()) + ") on commit drop");
            into = incoming(receiver) + " (" + columns + ", _removed)";
        }
        try (CopyStream copy = new CopyStream(template, into)) {
            for (KeptCall call : calls) {
                for (CallReading.CallRow row : read.get(call.id()).rows()) {
                    if (fresh.contains(event(call.id(), row))) {
                        rows.merge(call.id(), 1, Integer::sum);
                        write(copy.row(), call, row, latest);
                    }
                }
            }
            copy.end();
        }
    }

    private static String incoming(Receivers.Receiver receiver) {
        return "incoming_" + receiver.id() + "_" + receiver.revision();
    }

    private void write(CopyText text, KeptCall call, CallReading.CallRow row, boolean latest) {
        row.cells().forEach(text::cell);
        text.number(call.id()).number(row.number()).text(call.at().toString());
        text.cell(row.event().isEmpty() ? Optional.empty() : Optional.of(row.event()));
        text.cell(row.originals().isEmpty() ? Optional.empty() : Optional.of(json.write(row.originals())));
        if (latest) {
            text.truth(row.removed());
        }
        text.endRow();
    }

    /** The latest of every key; what is older than what is known of a key changes nothing. */
    private void apply(Receivers.Receiver receiver) {
        if (receiver.definition().several() instanceof CallsMean.LatestPerKey latest) {
            String keys = LandedSchema.list(latest.keys());
            List<String> columns = new ArrayList<>(receiver.definition().names().stream()
                    .map(LandedSchema::quoted)
                    .toList());
            columns.addAll(List.of((ReceiverTables.OWN + ", _removed").split(", ")));
            String by = latest.orderBy().isBlank() ? "" : LandedSchema.quoted(latest.orderBy());
            String newer = by.isEmpty()
                    ? "known._call <= excluded._call"
                    : "(known." + by + ", known._call) <= (excluded." + by + ", excluded._call)";
            template.execute("insert into " + ReceiverTables.table(receiver.id(), receiver.revision()) + " as known ("
                    + String.join(", ", columns) + ") select distinct on (" + keys + ") " + String.join(", ", columns)
                    + " from " + incoming(receiver) + " order by " + keys + (by.isEmpty() ? "" : ", " + by + " desc")
                    + ", _call desc, _number desc on conflict (" + keys + ") do update set "
                    + columns.stream()
                            .map(column -> column + " = excluded." + column)
                            .collect(Collectors.joining(", "))
                    + " where " + newer);
        }
    }

    private void settle(Receivers.Receiver receiver, List<Outcome> outcomes) {
        jdbc.sql("""
                        update received_call c set revision = ?, verdict = o.verdict, records = o.records, rows = o.rows,
                          problem = o.problem
                        from unnest(?::bigint[], ?::text[], ?::int[], ?::int[], ?::text[])
                          o (id, verdict, records, rows, problem)
                        where c.id = o.id
                        """)
                .params(
                        receiver.revision(),
                        outcomes.stream().map(Outcome::call).toArray(Long[]::new),
                        outcomes.stream().map(one -> one.verdict().name()).toArray(String[]::new),
                        outcomes.stream().map(Outcome::records).toArray(Integer[]::new),
                        outcomes.stream().map(Outcome::rows).toArray(Integer[]::new),
                        outcomes.stream()
                                .map(one -> one.problem().replace("\0", ""))
                                .toArray(String[]::new))
                .update();
    }
}

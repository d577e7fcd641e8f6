package remitto.server.receiver;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.call.CallBody;
import remitto.core.landed.LandedColumn;
import remitto.core.receiver.CallHeaders;
import remitto.server.landing.LandedLock;
import remitto.server.landing.LandedOfErased;
import remitto.server.landing.LandedSchema;
import remitto.server.platform.Json;
import remitto.server.rights.KeptRows;

/**
 * Calls that hold an address of somebody who is erased, or a record of theirs. A body with records of several people loses theirs and
 * keeps the others, so that nobody else is lost when calls are laid out anew.
 */
@Component
class CallsOfErased implements KeptRows {
    private static final int AT_A_TIME = 1_000;
    private static final int SHORTEST = 4;

    private final JdbcClient jdbc;
    private final Receivers receivers;
    private final ReceiverTables tables;
    private final LandedSchema schema;
    private final LandedOfErased erased;
    private final LandedLock lock;
    private final Json json;

    CallsOfErased(
            JdbcClient jdbc,
            Receivers receivers,
            ReceiverTables tables,
            LandedSchema schema,
            LandedOfErased erased,
            LandedLock lock,
            Json json) {
        this.jdbc = jdbc;
        this.receivers = receivers;
        this.tables = tables;
        this.schema = schema;
        this.erased = erased;
        this.lock = lock;
        this.json = json;
    }

    /** Everything of a call is ours. */
    @Override
    public List<String> unreached() {
        return List.of();
    }

    @Override
    public Map<String, Long> forget() {
        List<String> texts =
                jdbc.sql("select text from gone_text").query(String.class).list();
        long rows = 0;
        long calls = 0;
        for (Receivers.Receiver receiver : receivers.withArchived()) {
            // No server lays out a call of this receiver meanwhile that is about to go.
            lock.take(LandedLock.Of.RECEIVER, receiver.id(), receiver.name());
            Set<Map<String, String>> keys = new HashSet<>();
            for (String table : tables.of(receiver.id())) {
                rows += rows(receiver, table, keys);
            }
            calls += calls(receiver, gone(texts, keys), texts);
        }
        Map<String, Long> counts = new LinkedHashMap<>();
        counts.put("rows of calls", rows);
        counts.put("calls", calls);
        return counts;
    }

    /** @param keys takes, of each row that goes, what its call says by the names that its columns are from */
    private long rows(Receivers.Receiver receiver, String table, Set<Map<String, String>> keys) {
        List<String> there = schema.columns(table);
        List<LandedColumn> columns = receiver.definition().columns();
        String condition = erased.condition(columns, there, receiver.sourceId(), receiver.table());
        List<LandedColumn> telling = columns.stream()
                .filter(column -> keyColumns(receiver).contains(column.name()) && there.contains(column.name()))
                .toList();
        if (!telling.isEmpty()) {
            jdbc.sql("select "
                            + LandedSchema.list(
                                    telling.stream().map(LandedColumn::name).toList()) + " from " + table + " r where "
                            + condition)
                    .query(row -> {
                        Map<String, String> key = new LinkedHashMap<>();
                        for (LandedColumn column : telling) {
                            key.put(column.from(), String.valueOf(row.getString(column.name())));
                        }
                        keys.add(key);
                    });
        }
        return jdbc.sql("delete from " + table + " r where " + condition).update();
    }

    private static List<String> keyColumns(Receivers.Receiver receiver) {
        return receiver.definition().several() instanceof remitto.core.receiver.CallsMean.LatestPerKey latest
                ? latest.keys()
                : List.of();
    }

    private static Predicate<Map<String, String>> gone(List<String> texts, Set<Map<String, String>> keys) {
        return values -> keys.stream().anyMatch(key -> values.entrySet().containsAll(key.entrySet()))
                || values.values().stream()
                        .map(value -> value.toLowerCase(Locale.ROOT))
                        .anyMatch(value -> texts.stream()
                                .anyMatch(text ->
                                        value.equals(text) || text.length() >= SHORTEST && value.contains(text)));
    }

    private record Kept(long id, CallHeaders headers, byte[] body) {}

    private long calls(Receivers.Receiver receiver, Predicate<Map<String, String>> gone, List<String> texts) {
        long touched = 0;
        long last = 0;
        List<Kept> some = some(receiver.id(), last);
        while (!some.isEmpty()) {
            List<Long> removed = new ArrayList<>();
            for (Kept call : some) {
                CallBody.Less less = CallBody.without(
                        call.headers(), call.body(), receiver.definition().records(), gone);
                if (less instanceof CallBody.Less.Nothing
                        || less instanceof CallBody.Less.NoRecords && quotes(call, texts)) {
                    removed.add(call.id());
                } else if (less instanceof CallBody.Less.Others others) {
                    touched += jdbc.sql("update received_call set body = ? where id = ?")
                            .params(others.body(), call.id())
                            .update();
                }
                last = call.id();
            }
            touched += jdbc.sql("delete from received_call where id = any(?)")
                    .param(removed.toArray(Long[]::new))
                    .update();
            some = some(receiver.id(), last);
        }
        return touched;
    }

    /** A body that holds no records may hold anything. */
    private static boolean quotes(Kept call, List<String> texts) {
        String body = new String(call.body(), StandardCharsets.UTF_8).toLowerCase(Locale.ROOT);
        return texts.stream().anyMatch(text -> text.length() >= SHORTEST && body.contains(text));
    }

    @SuppressWarnings("unchecked")
    private List<Kept> some(long receiver, long after) {
        return jdbc.sql(
                        "select id, headers, body from received_call where receiver_id = ? and id > ? order by id limit "
                                + AT_A_TIME)
                .params(receiver, after)
                .query((row, number) -> new Kept(
                        row.getLong("id"),
                        new CallHeaders(json.read(row.getString("headers"), Map.class)),
                        Optional.ofNullable(row.getBytes("body")).orElse(new byte[0])))
                .list();
    }
}

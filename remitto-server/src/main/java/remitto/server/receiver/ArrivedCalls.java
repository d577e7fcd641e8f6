package remitto.server.receiver;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.receiver.CallVerdict;
import remitto.server.arrival.Arrival;
import remitto.server.arrival.Arriving;
import remitto.server.dataset.Datasets;
import remitto.server.landing.LandedSchema;
import remitto.server.platform.Rows;

/** Calls among all that comes in. */
@Component
class ArrivedCalls implements Arriving {
    private static final int FIRST_CELLS = 3;
    private static final String SELECT = """
            select c.id, c.received_at, c.verdict, c.rows, c.problem, r.id as receiver, r.name, r.source_id, s.name as source
            from received_call c join receiver r on r.id = c.receiver_id join source s on s.id = r.source_id
            """;

    private final Receivers receivers;
    private final LandedSchema schema;
    private final Datasets datasets;
    private final JdbcClient jdbc;

    ArrivedCalls(Receivers receivers, LandedSchema schema, Datasets datasets, JdbcClient jdbc) {
        this.datasets = datasets;
        this.receivers = receivers;
        this.schema = schema;
        this.jdbc = jdbc;
    }

    @Override
    public Arrival.Kind kind() {
        return Arrival.Kind.CALL;
    }

    @Override
    public List<Arrival> latest(Wanted wanted) {
        List<Arrival> bare = jdbc.sql(SELECT + """
                        where r.archived_at is null and (:source = 0 or r.source_id = :source)
                          and (not :troubled or c.verdict in ('HELD', 'REFUSED', 'DOUBLE'))
                          and c.received_at < :before
                        order by c.received_at desc, c.id desc limit :most
                        """)
                .param("source", wanted.source().orElse(0L))
                .param("troubled", wanted.troubled())
                .param("before", Rows.time(wanted.before().orElse(Instant.parse("9999-01-01T00:00:00Z"))))
                .param("most", wanted.most())
                .query((row, number) -> arrival(row, List.of()))
                .list();
        Map<Long, List<Long>> ids = new LinkedHashMap<>();
        bare.forEach(one -> ids.computeIfAbsent(one.subject().id(), fresh -> new ArrayList<>())
                .add(one.id()));
        Map<Long, List<String>> first = new HashMap<>();
        ids.forEach((receiver, calls) -> first.putAll(first(receivers.get(receiver), calls)));
        return bare.stream()
                .map(one -> new Arrival(
                        one.kind(),
                        one.id(),
                        one.at(),
                        one.subject(),
                        one.what(),
                        one.rows(),
                        first.getOrDefault(one.id(), List.of()),
                        one.mark(),
                        one.detail()))
                .toList();
    }

    /** The first cells of the first row of each call, those of sensitive columns aside. */
    private Map<Long, List<String>> first(Receivers.Receiver receiver, List<Long> calls) {
        List<String> columns = new ArrayList<>(columns(receiver));
        columns.removeAll(datasets.sensitiveColumns(receiver.sourceId()));
        if (columns.isEmpty()) {
            return Map.of();
        }
        List<String> few = columns.subList(0, Math.min(FIRST_CELLS, columns.size()));
        Map<Long, List<String>> first = new HashMap<>();
        jdbc.sql("select distinct on (_call) _call, " + LandedSchema.list(few) + " from "
                        + ReceiverTables.table(receiver.id(), receiver.shownRevision())
                        + " where _call = any(?) order by _call, _number")
                .param(calls.toArray(Long[]::new))
                .query(row -> {
                    List<String> cells = new ArrayList<>();
                    for (String column : few) {
                        Optional.ofNullable(row.getString(column)).ifPresent(cells::add);
                    }
                    first.put(row.getLong("_call"), cells);
                });
        return first;
    }

    /** Columns of the table that is shown; none before there is one. */
    private List<String> columns(Receivers.Receiver receiver) {
        if (receiver.shownRevision() == 0) {
            return List.of();
        }
        List<String> there = schema.columns(ReceiverTables.table(receiver.id(), receiver.shownRevision()));
        return receiver.definition().names().stream().filter(there::contains).toList();
    }

    private static Arrival arrival(ResultSet row, List<String> first) throws SQLException {
        return new Arrival(
                Arrival.Kind.CALL,
                row.getLong("id"),
                Rows.time(row, "received_at"),
                subject(row),
                "",
                row.getLong("rows"),
                first,
                mark(CallVerdict.valueOf(row.getString("verdict"))),
                row.getString("problem"));
    }

    private static Arrival.Subject subject(ResultSet row) throws SQLException {
        return new Arrival.Subject(
                row.getLong("receiver"), row.getString("name"), row.getLong("source_id"), row.getString("source"));
    }

    private static Arrival.Mark mark(CallVerdict verdict) {
        return switch (verdict) {
            case WAITING -> Arrival.Mark.WAITING;
            case KEPT -> Arrival.Mark.FITS;
            case HELD -> Arrival.Mark.HELD;
            case DOUBLE -> Arrival.Mark.DOUBLE;
            case REFUSED -> Arrival.Mark.REFUSED;
        };
    }

    @Override
    public List<HourOfSubject> hours(Instant since) {
        return jdbc.sql("""
                        select r.id as receiver, r.name, r.source_id, s.name as source, c.hour, c.calls
                        from (select receiver_id, date_trunc('hour', received_at, 'UTC') as hour, count(*) as calls
                          from received_call where received_at >= ? group by 1, 2) c
                        join receiver r on r.id = c.receiver_id join source s on s.id = r.source_id
                        where r.archived_at is null
                        """)
                .param(Rows.time(since))
                .query((row, number) -> new HourOfSubject(subject(row), Rows.time(row, "hour"), row.getLong("calls")))
                .list();
    }

    @Override
    public Optional<ArrivedRows> rows(long id, int most) {
        return jdbc.sql(SELECT + " where c.id = ? and r.archived_at is null")
                .param(id)
                .query((row, number) -> arrival(row, List.of()))
                .optional()
                .map(arrival -> rows(arrival, receivers.get(arrival.subject().id()), most));
    }

    private ArrivedRows rows(Arrival arrival, Receivers.Receiver receiver, int most) {
        List<String> columns = columns(receiver);
        if (columns.isEmpty()) {
            return new ArrivedRows(arrival, "", List.of(), List.of());
        }
        List<List<Optional<String>>> rows = jdbc.sql("select " + LandedSchema.list(columns) + " from "
                        + ReceiverTables.table(receiver.id(), receiver.shownRevision())
                        + " where _call = ? order by _number limit ?")
                .params(arrival.id(), most)
                .query((row, number) -> LandedSchema.cells(row, columns))
                .list();
        return new ArrivedRows(arrival, receiver.table(), columns, rows);
    }
}

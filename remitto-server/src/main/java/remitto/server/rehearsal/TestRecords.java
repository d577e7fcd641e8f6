package remitto.server.rehearsal;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.CallOutcome;
import remitto.core.value.Value;
import remitto.server.destination.Connections;
import remitto.server.platform.ActorName;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Made-up records that were sent to try a route, remembered so that they can be taken away again everywhere. */
@Component
class TestRecords {
    private final JdbcClient jdbc;
    private final Connections connections;
    private final Clock clock;

    TestRecords(JdbcClient jdbc, Connections connections, Clock clock) {
        this.jdbc = jdbc;
        this.connections = connections;
        this.clock = clock;
    }

    /** A test record that is still in a destination. */
    record TestRecord(
            long id,
            long routeId,
            String route,
            long destinationId,
            String destination,
            String object,
            String remoteId,
            @Personal(Personal.Part.KEY) String key,
            @ActorName String madeBy,
            Instant madeAt) {}

    List<TestRecord> present() {
        return jdbc.sql("""
                        select t.*, r.name as route, d.name as destination from test_record t
                        join route r on r.id = t.route_id join destination d on d.id = t.destination_id
                        where t.removed_at is null order by t.id
                        """)
                .query((row, number) -> new TestRecord(
                        row.getLong("id"),
                        row.getLong("route_id"),
                        row.getString("route"),
                        row.getLong("destination_id"),
                        row.getString("destination"),
                        row.getString("object"),
                        row.getString("remote_id"),
                        row.getString("source_key"),
                        row.getString("made_by"),
                        Rows.time(row, "made_at")))
                .list();
    }

    void remember(long routeId, long destinationId, String object, String remoteId, String key, String who) {
        jdbc.sql("""
                        insert into test_record (route_id, destination_id, object, remote_id, source_key, made_by, made_at)
                        values (?, ?, ?, ?, ?, ?, ?)
                        """)
                .params(routeId, destinationId, object, remoteId, key, who, Rows.time(clock.instant()))
                .update();
    }

    /** Removes every test record from every destination, and what is known of it; returns how many. */
    int cleanUp() {
        Map<List<Object>, List<TestRecord>> groups = present().stream()
                .collect(Collectors.groupingBy(record -> List.of(record.destinationId(), record.object())));
        int removed = 0;
        for (List<TestRecord> group : groups.values()) {
            removed += cleanUp(group);
        }
        return removed;
    }

    private int cleanUp(List<TestRecord> group) {
        TestRecord first = group.get(0);
        var described = connections.describe(first.destinationId(), first.object());
        CallOutcome outcome = connections
                .open(first.destinationId())
                .writing()
                .remove(new Destination.Batch(
                        described.description(),
                        "",
                        group.stream()
                                .map(one -> new Destination.Outgoing(one.remoteId(), Value.EMPTY, Map.of()))
                                .toList(),
                        "clean-up-" + group.get(0).id() + "-" + group.size()));
        if (!(outcome instanceof CallOutcome.Answered answered)) {
            throw Problem.conflict(first.destination() + " did not take the removal: " + outcome);
        }
        int removed = 0;
        for (int i = 0; i < group.size(); i++) {
            if (answered.results().get(i).accepted()
                    || answered.results().get(i).movedOn()) {
                forget(group.get(i));
                removed++;
            }
        }
        return removed;
    }

    private void forget(TestRecord record) {
        jdbc.sql("""
                        with gone as (
                          delete from destination_record where destination_id = ? and object = ? and remote_id = ? returning id
                        ), state as (
                          delete from record_state s using gone where s.record_id = gone.id returning s.route_id, s.ordinal
                        )
                        delete from route_record r using state s where r.route_id = s.route_id and r.ordinal = s.ordinal
                          and r.route_id = ?
                        """)
                .params(record.destinationId(), record.object(), record.remoteId(), record.routeId())
                .update();
        jdbc.sql("update test_record set removed_at = ? where id = ?")
                .params(Rows.time(clock.instant()), record.id())
                .update();
    }
}

package remitto.server.route;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.platform.ActorName;
import remitto.server.platform.Rows;

/** Fields that several routes write in an order: in each record, the first of them that has a value. */
@Component
public class FieldOrders {
    private final JdbcClient jdbc;
    private final Clock clock;

    FieldOrders(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** Routes in their order, who decided so, and when. */
    public record FieldOrder(
            List<Long> routeIds,
            List<String> routes,
            @ActorName String setBy,
            Instant setAt) {}

    /** By field. */
    public Map<String, FieldOrder> of(long destinationId, String object) {
        Map<String, FieldOrder> orders = new HashMap<>();
        jdbc.sql("""
                        select o.field, o.route_id, r.name, o.set_by, o.set_at from field_order o
                        join route r on r.id = o.route_id where o.destination_id = ? and o.object = ?
                        order by o.field, o.place
                        """).params(destinationId, object).query(row -> {
            FieldOrder order = orders.computeIfAbsent(
                    row.getString("field"),
                    field -> new FieldOrder(new ArrayList<>(), new ArrayList<>(), "", Instant.EPOCH));
            order.routeIds().add(row.getLong("route_id"));
            order.routes().add(row.getString("name"));
            orders.put(
                    row.getString("field"),
                    new FieldOrder(
                            order.routeIds(), order.routes(), row.getString("set_by"), Rows.time(row, "set_at")));
        });
        return orders;
    }

    /** By field, the routes that come before a route, with their names. */
    Map<String, Map<Long, String>> before(long routeId, long destinationId, String object) {
        Map<String, Map<Long, String>> before = new TreeMap<>();
        of(destinationId, object).forEach((field, order) -> {
            int place = order.routeIds().indexOf(routeId);
            Map<Long, String> earlier = new LinkedHashMap<>();
            for (int i = 0; i < place; i++) {
                earlier.put(order.routeIds().get(i), order.routes().get(i));
            }
            if (!earlier.isEmpty()) {
                before.put(field, earlier);
            }
        });
        return before;
    }

    /** Every other route that leads to an object, with their names. */
    Map<Long, String> otherRoutes(long routeId, long destinationId, String object) {
        Map<Long, String> others = new TreeMap<>();
        jdbc.sql("select id, name from route where destination_id = ? and object = ? and id <> ?")
                .params(destinationId, object, routeId)
                .query(row -> {
                    others.put(row.getLong("id"), row.getString("name"));
                });
        return others;
    }

    /** @param routeIds in their order; none ends the order */
    @Transactional
    public void set(long destinationId, String object, String field, List<Long> routeIds, String who) {
        jdbc.sql("delete from field_order where destination_id = ? and object = ? and field = ?")
                .params(destinationId, object, field)
                .update();
        for (int place = 0; place < routeIds.size(); place++) {
            jdbc.sql("""
                            insert into field_order (destination_id, object, field, place, route_id, set_by, set_at)
                            values (?, ?, ?, ?, ?, ?, ?)
                            """)
                    .params(destinationId, object, field, place, routeIds.get(place), who, Rows.time(clock.instant()))
                    .update();
        }
    }
}

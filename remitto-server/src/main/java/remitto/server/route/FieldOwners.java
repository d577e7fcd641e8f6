package remitto.server.route;

import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.ActorName;
import remitto.server.platform.Rows;

/** Fields that several routes could write, and the one route that does. */
@Component
public class FieldOwners {
    private final JdbcClient jdbc;
    private final Clock clock;

    FieldOwners(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** Who decided that a route owns a field, and when. */
    public record Owner(
            long routeId, String route, @ActorName String setBy, Instant setAt) {}

    /** By field. */
    public Map<String, Owner> of(long destinationId, String object) {
        Map<String, Owner> owners = new HashMap<>();
        jdbc.sql("""
                        select o.field, o.route_id, r.name, o.set_by, o.set_at from field_owner o
                        join route r on r.id = o.route_id where o.destination_id = ? and o.object = ?
                        """).params(destinationId, object).query(row -> {
            owners.put(
                    row.getString("field"),
                    new Owner(
                            row.getLong("route_id"),
                            row.getString("name"),
                            row.getString("set_by"),
                            Rows.time(row, "set_at")));
        });
        return owners;
    }

    public void set(long destinationId, String object, String field, long routeId, String who) {
        jdbc.sql("""
                        insert into field_owner (destination_id, object, field, route_id, set_by, set_at)
                        values (:destination, :object, :field, :route, :who, :now)
                        on conflict (destination_id, object, field) do update
                        set route_id = excluded.route_id, set_by = excluded.set_by, set_at = excluded.set_at
                        """)
                .param("destination", destinationId)
                .param("object", object)
                .param("field", field)
                .param("route", routeId)
                .param("who", who)
                .param("now", Rows.time(clock.instant()))
                .update();
    }

    public void clear(long destinationId, String object, String field) {
        jdbc.sql("delete from field_owner where destination_id = ? and object = ? and field = ?")
                .params(destinationId, object, field)
                .update();
    }
}

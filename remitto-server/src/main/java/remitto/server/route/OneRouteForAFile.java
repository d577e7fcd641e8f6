package remitto.server.route;

import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Problem;

/** A file holds what one route sends; a second one would put its own in place of it. */
@Component
class OneRouteForAFile implements ServiceCheck {
    private final JdbcClient jdbc;

    OneRouteForAFile(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public List<Problem.Detail> against(long routeId, BoundRoute route) {
        if (route.connection().destination().files().isEmpty()) {
            return List.of();
        }
        String object = route.described().description().name();
        return jdbc.sql("""
                        select name from route where destination_id = ? and object = ? and id <> ? and live_version is not null
                        order by name
                        """)
                .params(route.destinationId(), object, routeId)
                .query((row, number) -> new Problem.Detail(
                        "",
                        "The file " + object + " is written by " + row.getString("name")
                                + " already; create another file for this route."))
                .list();
    }
}

package remitto.server.token;

import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Whether what a request is about lies within what a token is narrowed to. What is about more than one route or destination does not. */
@Component
class TokenReach {
    private static final Pattern SUBJECT = Pattern.compile("/api/(routes|runs|destinations)/(\\d{1,18})(/.*)?");
    private static final Pattern NUMBER = Pattern.compile("\\d{1,18}");

    private final JdbcClient jdbc;

    TokenReach(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private record Ends(long route, long destination) {}

    /** @param routeId of the query, where the request has one */
    boolean covers(Narrowing narrowing, String path, Optional<String> routeId) {
        if (narrowing.isNone() || path.equals("/api/session")) {
            return true;
        }
        if (path.equals("/api/runs")) {
            return routeId.filter(id -> NUMBER.matcher(id).matches())
                    .flatMap(id -> route(Long.parseLong(id)))
                    .filter(ends -> narrowing.coversRoute(ends.route(), ends.destination()))
                    .isPresent();
        }
        Matcher subject = SUBJECT.matcher(path);
        if (!subject.matches()) {
            return false;
        }
        long id = Long.parseLong(subject.group(2));
        return switch (subject.group(1)) {
            case "destinations" -> narrowing.coversDestination(id);
            case "runs" -> within(narrowing, run(id));
            default -> within(narrowing, route(id));
        };
    }

    private static boolean within(Narrowing narrowing, Optional<Ends> found) {
        return found.filter(ends -> narrowing.coversRoute(ends.route(), ends.destination()))
                .isPresent();
    }

    private Optional<Ends> route(long id) {
        return ends("select id, destination_id from route where id = ?", id);
    }

    private Optional<Ends> run(long id) {
        return ends("select r.id, r.destination_id from run join route r on r.id = run.route_id where run.id = ?", id);
    }

    private Optional<Ends> ends(String sql, long id) {
        return jdbc.sql(sql)
                .param(id)
                .query((row, number) -> new Ends(row.getLong("id"), row.getLong("destination_id")))
                .optional();
    }
}

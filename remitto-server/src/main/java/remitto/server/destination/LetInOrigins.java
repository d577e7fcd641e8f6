package remitto.server.destination;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.platform.Problem;
import remitto.server.platform.RemittoProperties;

/**
 * Where data may go. An editor can connect a destination and test its sign-in; data goes there only once an administrator has let its
 * origins in (scheme, host and port), and again when they change.
 */
@Component
public class LetInOrigins {
    private final JdbcClient jdbc;
    private final SecretAddresses addresses;
    private final Destinations destinations;
    private final List<String> always;

    LetInOrigins(JdbcClient jdbc, SecretAddresses addresses, Destinations destinations, RemittoProperties properties) {
        this.jdbc = jdbc;
        this.addresses = addresses;
        this.destinations = destinations;
        this.always = properties.letInOrigins();
    }

    /** @throws Problem naming the origins that nobody has let in */
    public void require(long destinationId) {
        List<String> waiting = waiting(destinationId);
        if (!waiting.isEmpty()) {
            throw Problem.conflict("No data goes to " + String.join(" and ", waiting)
                    + " yet. An administrator allows it on the page of "
                    + destinations.get(destinationId).name() + ".");
        }
    }

    /** Origins that its profile calls and that nobody has let in. */
    List<String> waiting(long destinationId) {
        Set<String> needed = addresses.now(destinationId);
        Set<String> letIn = letIn(destinationId).orElseGet(() -> {
            keep(destinationId, needed);
            return needed;
        });
        return needed.stream()
                .filter(origin -> !letIn.contains(origin) && !isAlways(origin))
                .toList();
    }

    private boolean isAlways(String origin) {
        return always.stream()
                .anyMatch(one -> one.endsWith(":*")
                        ? origin.startsWith(one.substring(0, one.length() - 1))
                        : one.equals(origin));
    }

    /**
     * Lets in what it calls now.
     *
     * @return the origins that were not let in before
     */
    @Transactional
    List<String> letIn(long destinationId, Set<String> seen) {
        Set<String> needed = addresses.now(destinationId);
        if (!seen.containsAll(needed)) {
            throw Problem.conflict("The addresses changed meanwhile; reload to see them.");
        }
        List<String> fresh = waiting(destinationId);
        Set<String> all = new TreeSet<>(letIn(destinationId).orElse(Set.of()));
        all.addAll(needed);
        keep(destinationId, all);
        return fresh;
    }

    /** A new destination begins with none. */
    void none(long destinationId) {
        keep(destinationId, Set.of());
    }

    private Optional<Set<String>> letIn(long destinationId) {
        return jdbc.sql("select let_in from destination where id = ? and let_in is not null")
                .param(destinationId)
                .query((row, number) -> (Set<String>) new TreeSet<>(
                        Arrays.asList((String[]) row.getArray("let_in").getArray())))
                .optional();
    }

    private void keep(long destinationId, Set<String> origins) {
        jdbc.sql("update destination set let_in = ? where id = ?")
                .params(origins.toArray(String[]::new), destinationId)
                .update();
    }
}

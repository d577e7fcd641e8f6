package remitto.server.destination;

import org.springframework.stereotype.Component;
import remitto.connect.destination.DestinationProblem;

/** Finds out whether a destination answers, and which objects it has. */
@Component
class DestinationTest {
    private final Destinations destinations;
    private final Connections connections;

    DestinationTest(Destinations destinations, Connections connections) {
        this.destinations = destinations;
        this.connections = connections;
    }

    void run(long id) {
        try {
            var destination = connections.open(id).destination();
            String said = destination.check();
            destinations.rememberObjects(id, destination.objects());
            destinations.tested(id, said, "");
        } catch (DestinationProblem problem) {
            destinations.tested(id, "", String.valueOf(problem.getMessage()));
        }
    }
}

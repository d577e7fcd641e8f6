package remitto.server.planning;

/** What is brought up to date before a route reads its dataset. */
public interface BeforePreparation {
    /** @throws RuntimeException if it cannot be, in which case the run fails and says why */
    void prepare(long routeId);
}

package remitto.server.run;

/**
 * Somebody's turn at a run: whoever closes it shows this, and it counts while nobody has taken the run up since, the same process
 * included.
 *
 * @param owner the process
 * @param epoch how many turns there were, this one among them
 */
public record Tenure(long runId, String owner, int epoch) {}

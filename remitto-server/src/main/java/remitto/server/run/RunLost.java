package remitto.server.run;

/** Somebody else took the run up while this process was silent: what it was about to write down counts no more. */
public final class RunLost extends RuntimeException {
    public RunLost(long runId) {
        super("run " + runId + " is worked on by another process now");
    }
}

package remitto.server.job;

/** The job is to end where it is. */
public final class JobCancelled extends RuntimeException {
    JobCancelled() {
        super("nobody waits for it any more");
    }
}

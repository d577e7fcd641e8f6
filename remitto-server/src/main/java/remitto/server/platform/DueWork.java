package remitto.server.platform;

import java.time.Instant;

/** Work besides routes that the timetable starts. */
public interface DueWork {
    /** Starts what is due; returns without waiting for it. */
    void startDue(Instant now);
}

package remitto.server.platform;

import java.util.Map;
import org.slf4j.MDC;

/** What lines of the log say of the work they come from: ids alone, never values. */
public record LogContext(Map<String, String> ids) {
    public LogContext {
        ids = Map.copyOf(ids);
    }

    /** Work on a run. */
    public static LogContext ofRun(long run, long route) {
        return new LogContext(Map.of("run", Long.toString(run), "route", Long.toString(route)));
    }

    /** The same work, with these ids beside every line that it logs. */
    public Runnable around(Runnable work) {
        return () -> {
            ids.forEach(MDC::put);
            try {
                work.run();
            } finally {
                ids.keySet().forEach(MDC::remove);
            }
        };
    }
}

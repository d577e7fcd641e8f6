package remitto.server.run;

import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import remitto.core.run.Asked;

/** The runs this process works on. One run may be worked on by turns: prepared, sent, taken over from itself. */
public final class Working {
    private final Map<Long, Progress> byRun = new ConcurrentHashMap<>();

    public void begin(long runId, Progress progress) {
        byRun.put(runId, progress);
    }

    /** Ends one turn; another turn that began on the same run meanwhile goes on. */
    public void end(long runId, Progress progress) {
        byRun.remove(runId, progress);
    }

    public Optional<Progress> progress(long runId) {
        return Optional.ofNullable(byRun.get(runId));
    }

    public Set<Long> runs() {
        return byRun.keySet();
    }

    /** The turns of now, whatever begins and ends after. */
    public Map<Long, Progress> turns() {
        return Map.copyOf(byRun);
    }

    /** Leaves all of it to another process. */
    public void letGoOfAll() {
        byRun.values().forEach(turn -> turn.ask(Asked.LET_GO));
    }
}

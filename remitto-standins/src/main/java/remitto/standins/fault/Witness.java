package remitto.standins.fault;

import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import remitto.standins.store.DurableLog;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Writes down every line of every call that would write: as it comes in, before anything is done about it, and how the call
 * ended. {@link Testimony} reads it. It outlives the process, so that a killed stand-in has not forgotten what it received.
 */
public final class Witness implements AutoCloseable {
    private final ObjectMapper json;
    private final DurableLog log;
    private long calls;

    public Witness(Path file, ObjectMapper json) {
        this.json = json;
        this.log = new DurableLog(file, json, line -> calls = Math.max(calls, number(line)));
        log.note(json.createObjectNode().put("started", calls));
    }

    private static long number(JsonNode line) {
        return line.path("call").asLong(0);
    }

    /**
     * @param asked what the caller calls it; blank when it does not say
     * @param key under which the stand-in takes a call once; blank where it offers none
     * @return the number of the call
     */
    synchronized long received(Instant at, String asked, String key, String path, List<String> lines) {
        ObjectNode line = json.createObjectNode()
                .put("call", ++calls)
                .put("at", at.toString())
                .put("asked", asked)
                .put("key", key)
                .put("path", path);
        lines.forEach(line.putArray("lines")::add);
        log.note(line);
        return calls;
    }

    /** @param told what the answer says of each line; empty when it says nothing of them */
    synchronized void ended(long call, int status, boolean answered, List<String> told) {
        ObjectNode line =
                json.createObjectNode().put("ended", call).put("status", status).put("answered", answered);
        told.forEach(line.putArray("told")::add);
        log.note(line);
    }

    @Override
    public synchronized void close() {
        log.close();
    }
}

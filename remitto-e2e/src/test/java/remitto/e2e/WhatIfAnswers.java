package remitto.e2e;

import java.util.concurrent.locks.LockSupport;
import remitto.demo.history.Api;
import tools.jackson.databind.JsonNode;

/** Asks what a change would do, and waits for the answer as a page does. */
final class WhatIfAnswers {
    private static final long LOOK_NANOS = 100_000_000;

    private WhatIfAnswers() {}

    /** What it would do to each route. */
    static JsonNode effects(Api user, String path, Object unsaved) {
        JsonNode job = user.post(path, unsaved);
        while (job.get("state").asString().equals("UNDER_WAY")) {
            LockSupport.parkNanos(LOOK_NANOS);
            job = user.get("/api/what-if/" + job.get("id").asLong());
        }
        if (!job.get("state").asString().equals("DONE")) {
            throw new AssertionError(job.toString());
        }
        return job.get("effects");
    }
}

package remitto.server.rehearsal;

import java.security.Principal;
import java.util.List;
import java.util.function.Function;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.job.Job;
import remitto.server.job.JobProgress;
import remitto.server.job.Jobs;
import remitto.server.platform.Json;

/** What-if questions as they go on, for whoever asked. A question that nobody looks at for a minute is given up. */
@RestController
@RequestMapping("/api/what-if")
class WhatIfJobs {
    private final Jobs jobs;
    private final Json json;

    WhatIfJobs(Jobs jobs, Json json) {
        this.jobs = jobs;
        this.json = json;
    }

    /**
     * A comparison of a change on all rows, in the background.
     *
     * @param route whose rows are being judged; blank before the first
     * @param rows judged so far, over all routes
     * @param effects one for each route, once it is done
     * @param problem why it failed, in words
     */
    record WhatIfJob(
            long id,
            Job.State state,
            String route,
            long rows,
            List<ChangeRehearsals.RouteEffect> effects,
            String problem) {}

    WhatIfJob begin(Principal who, Function<JobProgress, List<ChangeRehearsals.RouteEffect>> work) {
        return view(jobs.begin(who.getName(), work));
    }

    private WhatIfJob view(Job job) {
        return new WhatIfJob(
                job.id(),
                job.state(),
                job.doing(),
                job.rows(),
                job.result()
                        .map(text -> List.of(json.read(text, ChangeRehearsals.RouteEffect[].class)))
                        .orElse(List.of()),
                job.problem());
    }

    /** How one's own question goes on, and what came of it. Kept for an hour. */
    @GetMapping("/{id}")
    WhatIfJob whatIfJob(@PathVariable long id, Principal who) {
        return view(jobs.look(id, who.getName()));
    }

    /** Gives one's own question up. */
    @DeleteMapping("/{id}")
    WhatIfJob giveUpWhatIf(@PathVariable long id, Principal who) {
        return view(jobs.cancel(id, who.getName()));
    }
}

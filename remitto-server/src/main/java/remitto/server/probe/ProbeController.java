package remitto.server.probe;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.source.RowSource;
import remitto.server.dataset.Datasets;

/** Whether a dataset is looked at for changes, how, and what that costs. */
@RestController
class ProbeController {
    private final Waiting waiting;
    private final DatasetProbes probes;
    private final Datasets datasets;

    ProbeController(Waiting waiting, DatasetProbes probes, Datasets datasets) {
        this.waiting = waiting;
        this.probes = probes;
        this.datasets = datasets;
    }

    /**
     * How changes of a dataset are noticed.
     *
     * @param waiting what begins when it has changed, in words; nothing looks at it while there is none
     * @param made whether its rows are what matching and counting make, so that nobody has to look
     * @param means how a change is told; absent before the first look
     * @param lookedAt absent before the first look
     * @param changedAt when a change was last seen; absent before the first
     * @param millis how long the last look took
     * @param everySeconds between two looks: a minute, or twenty times as long as a look takes
     * @param problem why the last look failed; blank if it went well
     */
    record ChangesOfDataset(
            List<String> waiting,
            boolean made,
            Optional<RowSource.Means> means,
            Optional<Instant> lookedAt,
            Optional<Instant> changedAt,
            long millis,
            long everySeconds,
            String problem) {}

    /** How changes of a dataset are noticed, and what begins then. */
    @GetMapping("/api/datasets/{id}/changes")
    ChangesOfDataset changesOfDataset(@PathVariable long id) {
        datasets.get(id);
        Map<Long, Waiting.Of> all = waiting.all();
        DatasetProbe probe = probes.of(id);
        return new ChangesOfDataset(
                Optional.ofNullable(all.get(id)).map(Waiting.Of::words).orElse(List.of()),
                waiting.isMade(id),
                probe.means(),
                probe.lookedAt(),
                probe.changedAt(),
                probe.millis(),
                probe.between().toSeconds(),
                probe.problem());
    }
}

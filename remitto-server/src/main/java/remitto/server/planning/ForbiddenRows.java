package remitto.server.planning;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Row;
import remitto.core.known.Fingerprint;
import remitto.core.known.KnownIndex;
import remitto.core.known.RecordState;
import remitto.core.manifest.MaySend;
import remitto.server.route.BoundRoute;
import remitto.server.source.Sources;

/** Reads a route's dataset once more for the rows of those who do not agree by now. */
@Component
public class ForbiddenRows {
    private static final Duration READ_TIME = Duration.ofHours(2);
    private static final int AT_ONCE = 1000;

    private final Sources sources;
    private final ChunkJudge judge;

    ForbiddenRows(Sources sources, ChunkJudge judge) {
        this.sources = sources;
        this.judge = judge;
    }

    /** Their keys, in primitive arrays. */
    public KnownIndex read(BoundRoute route) {
        KnownIndex index = new KnownIndex(1);
        List<Row> chunk = new ArrayList<>();
        sources.rows(route.sourceId()).read(route.dataset().reading(READ_TIME), cells -> {
            chunk.add(Row.of(route.columns(), cells));
            if (chunk.size() == AT_ONCE) {
                take(route, chunk, index);
            }
            return true;
        });
        take(route, chunk, index);
        return index;
    }

    private void take(BoundRoute route, List<Row> chunk, KnownIndex index) {
        Fingerprint fingerprint = new Fingerprint();
        judge.asTheyAre(route, chunk).forEach((key, record) -> {
            if (MaySend.forbidsAnything(record)) {
                long[] hash = fingerprint.key(key);
                index.put(hash[0], hash[1], 0, 0, RecordState.NONE, false);
            }
        });
        chunk.clear();
    }
}

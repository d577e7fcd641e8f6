package remitto.server.expectation;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;
import remitto.connect.source.RowSource;
import remitto.core.dataset.Columns;
import remitto.core.expectation.Demand;
import remitto.core.expectation.Expectation;
import remitto.core.expectation.Finding;
import remitto.core.expectation.HeldRows;
import remitto.core.expectation.Response;
import remitto.core.expectation.SharedValues;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.source.Sources;

/** Watches reads of datasets, and keeps what they came to. */
@Component
public class ReadWatches {
    /** So many values that several rows share can be told apart row by row; of more, only their number is known. */
    private static final int TOLD_APART = 10_000;

    private static final Duration BETWEEN_PROFILES = Duration.ofHours(1);
    private static final Duration TIME = Duration.ofMinutes(10);

    private final Sources sources;
    private final Datasets datasets;
    private final DatasetReads reads;
    private final Clock clock;

    ReadWatches(Sources sources, Datasets datasets, DatasetReads reads, Clock clock) {
        this.sources = sources;
        this.datasets = datasets;
        this.reads = reads;
        this.clock = clock;
    }

    /**
     * To be told of every row of a read from end to end that is about to begin. The source is asked for values that must be unique.
     * Columns are profiled once an hour, whoever reads, since that takes about as long as reading many a dataset.
     */
    public ReadWatch begin(Datasets.Dataset dataset, DatasetDefinition definition) {
        ReadWatch.Of of = of(dataset);
        return begin(
                dataset, definition, !reads.isProfiledSince(of, clock.instant().minus(BETWEEN_PROFILES)));
    }

    /** The same with columns profiled in any case. */
    ReadWatch beginCheck(Datasets.Dataset dataset, DatasetDefinition definition) {
        return begin(dataset, definition, true);
    }

    private ReadWatch begin(Datasets.Dataset dataset, DatasetDefinition definition, boolean profiled) {
        return new ReadWatch(
                of(dataset), definition, shared(dataset.sourceId(), definition.expectations(), definition), profiled);
    }

    private static ReadWatch.Of of(Datasets.Dataset dataset) {
        return new ReadWatch.Of(dataset.id(), dataset.liveVersion().orElse(dataset.latestVersion()));
    }

    /**
     * Keeps what a read came to, once its last row was seen.
     *
     * @return whether each expectation was met
     */
    public List<Finding> end(ReadWatch watch, ReadFor reader) {
        Instant now = clock.instant();
        ReadWatch.Seen seen = watch.seen(now, reads.lastCounts(watch.dataset()));
        datasets.seen(watch.dataset(), seen.freshness());
        reads.keep(watch, seen, reader, now);
        return seen.findings();
    }

    /** Which rows of a dataset routes hold, for those who do not read all of it. */
    public HeldRows heldRows(long source, DatasetDefinition definition) {
        List<Expectation> holding = definition.expectations().stream()
                .filter(one -> one.response() == Response.HOLD_ROWS)
                .toList();
        return holding.isEmpty()
                ? HeldRows.NONE
                : HeldRows.of(holding, new Columns(definition.columns()), shared(source, holding, definition));
    }

    SharedValues shared(long source, List<Expectation> expectations, DatasetDefinition definition) {
        Map<String, Set<String>> byColumn = new HashMap<>();
        Map<String, Long> numbers = new HashMap<>();
        for (Expectation one : expectations) {
            if (one.demand() instanceof Demand.UniqueValues && one.column().isPresent()) {
                String column = one.column().get();
                RowSource.KeyFindings found =
                        sources.rows(source).checkKey(definition.query().asked(), List.of(column), TOLD_APART, TIME);
                Set<String> values = new HashSet<>();
                found.examples().forEach(cells -> values.add(cells.get(0)));
                byColumn.put(column, values);
                numbers.put(column, found.doubled());
            }
        }
        return new SharedValues(byColumn, numbers);
    }
}

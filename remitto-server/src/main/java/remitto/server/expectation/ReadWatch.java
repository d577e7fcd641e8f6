package remitto.server.expectation;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import remitto.core.columnprofile.Profiler;
import remitto.core.columnprofile.ReadProfile;
import remitto.core.dataset.Columns;
import remitto.core.expectation.Finding;
import remitto.core.expectation.HeldRows;
import remitto.core.expectation.ReadCheck;
import remitto.core.expectation.ReadFacts;
import remitto.core.expectation.SharedValues;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.dataset.NewestRow;

/** Sees one read of a dataset from end to end. Not safe to share between threads. */
public final class ReadWatch {
    private final Of of;
    private final HeldRows held;
    private final NewestRow newest;
    private final ReadCheck check;
    private final Optional<Profiler> profiler;
    private long rows;

    /** @param profiled whether what the columns hold is to be told afterwards */
    ReadWatch(Of of, DatasetDefinition definition, SharedValues shared, boolean profiled) {
        Columns columns = new Columns(definition.columns());
        this.of = of;
        this.held = HeldRows.of(definition.expectations(), columns, shared);
        this.newest = new NewestRow(definition);
        this.check = new ReadCheck(definition.expectations(), columns, shared);
        this.profiler = profiled ? Optional.of(new Profiler(definition.columns())) : Optional.empty();
    }

    /** @param cells of a row, in the order of the dataset's columns; not kept */
    public void see(@Nullable String[] cells) {
        rows++;
        newest.see(cells);
        check.see(cells);
        if (profiler.isPresent()) {
            profiler.get().see(cells);
        }
    }

    /** Rows that a route holds. */
    public HeldRows held() {
        return held;
    }

    long dataset() {
        return of.dataset();
    }

    int version() {
        return of.version();
    }

    /** What was seen once the last row was. */
    Seen seen(Instant now, List<Long> earlier) {
        Datasets.Freshness freshness = newest.freshness(rows, now);
        return new Seen(
                rows,
                profiler.map(Profiler::profile),
                freshness,
                check.findings(new ReadFacts(rows, freshness.newestRow(), now, earlier)));
    }

    /** A version of a dataset. */
    record Of(long dataset, int version) {}

    /**
     * What a read came to.
     *
     * @param profile absent where the columns were profiled shortly before
     */
    record Seen(long rows, Optional<ReadProfile> profile, Datasets.Freshness freshness, List<Finding> findings) {}
}

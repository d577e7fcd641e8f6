package remitto.server.planning;

import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Row;
import remitto.core.expectation.Finding;
import remitto.core.known.Fingerprint;
import remitto.core.known.KnownIndex;
import remitto.server.dataset.DatasetQueries;
import remitto.server.dataset.Datasets;
import remitto.server.dataset.UnreadRows;
import remitto.server.expectation.ReadFor;
import remitto.server.expectation.ReadWatch;
import remitto.server.expectation.ReadWatches;
import remitto.server.known.Candidate;
import remitto.server.known.ErasedRows;
import remitto.server.known.OtherWriters;
import remitto.server.known.RouteRecords;
import remitto.server.manifest.Lines;
import remitto.server.route.BoundRoute;
import remitto.server.run.Prepared;
import remitto.server.run.Progress;
import remitto.server.run.RunHistory;
import remitto.server.run.Turns;
import remitto.server.source.Sources;

/**
 * Prepares a manifest: reads the dataset once, passes over records whose input is as it was, judges the others a
 * chunk at a time, and writes a line for each that is not unchanged. Memory is bounded by what is known of the
 * route's records, not by the rows.
 */
@Component
public class ManifestPreparation {
    private static final int AT_ONCE = 500;
    private static final Duration READ_TIME = Duration.ofHours(2);

    private final Sources sources;
    private final ReadWatches watches;
    private final Datasets datasets;
    private final DatasetQueries queries;
    private final RouteRecords records;
    private final OtherWriters earlier;
    private final ChunkJudge judge;
    private final LeaverChunks leavers;
    private final Lines lines;
    private final RunHistory history;
    private final LookUpFinder lookUps;
    private final ErasedRows erased;
    private final Clock clock;
    private final List<BeforePreparation> before;
    private final List<UnreadRows> unread;

    ManifestPreparation(
            Sources sources,
            ReadWatches watches,
            Datasets datasets,
            DatasetQueries queries,
            RouteRecords records,
            OtherWriters earlier,
            ChunkJudge judge,
            LeaverChunks leavers,
            Lines lines,
            RunHistory history,
            LookUpFinder lookUps,
            ErasedRows erased,
            Clock clock,
            List<BeforePreparation> before,
            List<UnreadRows> unread) {
        this.sources = sources;
        this.watches = watches;
        this.datasets = datasets;
        this.queries = queries;
        this.records = records;
        this.earlier = earlier;
        this.judge = judge;
        this.leavers = leavers;
        this.lines = lines;
        this.history = history;
        this.lookUps = lookUps;
        this.erased = erased;
        this.clock = clock;
        this.before = List.copyOf(before);
        this.unread = List.copyOf(unread);
    }

    /** The whole dataset. */
    public Prepared all(Turns.Turn turn, BoundRoute route, Progress progress) {
        before.forEach(one -> one.prepare(route.routeId()));
        earlier.letGo(route, clock.instant());
        KnownIndex index = records.load(route.routeId(), clock.instant());
        long knownBefore = records.boundCount(route.routeId());
        boolean first = !history.readBefore(route.routeId(), turn.runId());
        Inputs inputs = new Inputs(route, lookUps.everything(route));
        ReadWatch watch = watches.begin(datasets.ofRoute(route.routeId()), route.dataset());
        Preparation preparation = new Preparation(
                new Preparation.Tools(records, judge, leavers, lines, erased, watch.held(), turn),
                route,
                index,
                inputs,
                first);
        progress.begin(index.size());
        long unread = unread(route);
        sources.rows(route.sourceId()).read(route.dataset().reading(READ_TIME), cells -> {
            watch.see(cells);
            if (preparation.row(cells)) {
                progress.add(1024);
            }
            return !progress.isToStop();
        });
        if (!progress.isToStop()) {
            // Files may be read meanwhile.
            preparation.leavers(Math.max(unread, unread(route)));
        }
        Prepared prepared = preparation.finish(knownBefore, index.boundNotMet());
        return progress.isToStop() ? prepared : prepared.unexpected(broken(watch, route));
    }

    private List<String> broken(ReadWatch watch, BoundRoute route) {
        return watches.end(watch, ReadFor.route(route.name())).stream()
                .filter(Finding::stopsRoutes)
                .map(Finding::sentence)
                .toList();
    }

    private long unread(BoundRoute route) {
        return unread.stream()
                .mapToLong(one -> one.of(route.sourceId(), route.dataset().query()))
                .sum();
    }

    /** One record only; nothing is said about any other. */
    public Prepared one(Turns.Turn turn, BoundRoute route, String key, Row row) {
        Preparation preparation = part(turn, route);
        preparation.candidate(candidate(route, key, row));
        return preparation.finish(records.boundCount(route.routeId()), 0);
    }

    /** Some records, with their rows read again; a key without a row is passed over. */
    public Prepared some(Turns.Turn turn, BoundRoute route, List<String> keys, Progress progress) {
        Preparation preparation = part(turn, route);
        progress.begin(keys.size());
        for (int from = 0; from < keys.size() && !progress.isToStop(); from += AT_ONCE) {
            List<String> some = keys.subList(from, Math.min(keys.size(), from + AT_ONCE));
            queries.byKeys(route.sourceId(), route.dataset(), some)
                    .forEach(row -> row.key().ifPresent(key -> preparation.candidate(candidate(route, key, row))));
            progress.add(some.size());
        }
        return preparation.finish(records.boundCount(route.routeId()), 0);
    }

    private Preparation part(Turns.Turn turn, BoundRoute route) {
        Inputs inputs = new Inputs(route, Inputs.NOTHING_BEYOND);
        return new Preparation(
                new Preparation.Tools(
                        records,
                        judge,
                        leavers,
                        lines,
                        erased,
                        watches.heldRows(route.sourceId(), route.dataset()),
                        turn),
                route,
                new KnownIndex(1),
                inputs,
                false);
    }

    private Candidate candidate(BoundRoute route, String key, Row row) {
        Fingerprint fingerprint = new Fingerprint();
        long[] hash = fingerprint.key(key);
        Optional<Integer> known = records.ordinal(route.routeId(), hash[0], hash[1]);
        int ordinal = known.orElse(0);
        long input = new Inputs(route, lookUps.of(route, lookUps.find(route, List.of(row)))).of(row.cells());
        return new Candidate(key, hash[0], hash[1], ordinal, known.isPresent(), input, row);
    }
}

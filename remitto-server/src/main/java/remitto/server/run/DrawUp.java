package remitto.server.run;

import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;
import org.springframework.stereotype.Component;
import remitto.connect.warehouse.Warehouse;
import remitto.core.dataset.Column;
import remitto.core.dataset.RecordKey;
import remitto.core.dataset.Row;
import remitto.core.delivery.LineState;
import remitto.core.known.Fingerprint;
import remitto.core.known.KnownIndex;
import remitto.core.manifest.Standing;
import remitto.core.manifest.Sums;
import remitto.core.manifest.Trace;
import remitto.core.manifest.Verdict;
import remitto.server.route.BoundRoute;
import remitto.server.source.Sources;

/**
 * Draws up a manifest: reads the dataset once, passes over records whose input is as it was, judges the others a
 * chunk at a time, and writes a line for each that is not unchanged. Memory is bounded by what is known of the
 * route's records, not by the rows.
 */
@Component
class DrawUp {
    private static final int CHUNK = 1_000;
    private static final Duration READ_TIME = Duration.ofHours(2);

    private final Sources sources;
    private final RouteRecords records;
    private final ChunkJudge judge;
    private final Lines lines;

    DrawUp(Sources sources, RouteRecords records, ChunkJudge judge, Lines lines) {
        this.sources = sources;
        this.records = records;
        this.judge = judge;
        this.lines = lines;
    }

    /** @param missing bound records that the dataset no longer holds */
    record Drawn(Sums sums, long knownBefore, long missing, RoaringBitmap unchanged) {}

    /** The whole dataset. */
    Drawn all(long runId, BoundRoute route, Progress progress) {
        KnownIndex index = records.load(route.routeId());
        long knownBefore = records.boundCount(route.routeId());
        Drawing drawing = new Drawing(runId, route, index, progress);
        List<String> names = route.columns().list().stream().map(Column::name).toList();
        progress.begin(index.size());
        warehouse(route).read(Warehouse.single(route.dataset().query().text()), names, List.of(), READ_TIME, cells -> {
            drawing.row(cells);
            return !progress.isCancelled();
        });
        return drawing.finish(knownBefore, index.boundNotMet());
    }

    /** One record only; nothing is said about any other. */
    Drawn one(long runId, BoundRoute route, String key, Row row) {
        long[] hash = new Fingerprint().key(key);
        Optional<Integer> known = records.ordinal(route.routeId(), hash[0], hash[1]);
        int ordinal = known.orElseGet(() -> records.nextOrdinal(route.routeId()));
        Candidate candidate = new Candidate(key, hash[0], hash[1], ordinal, known.isPresent(), 0, row);
        Drawing drawing = new Drawing(runId, route, new KnownIndex(1), new Progress());
        drawing.read = 1;
        drawing.chunk.add(candidate);
        return drawing.finish(records.boundCount(route.routeId()), 0);
    }

    private Warehouse warehouse(BoundRoute route) {
        return sources.warehouse(route.sourceId());
    }

    /** One pass over the dataset. */
    private final class Drawing {
        private final long runId;
        private final BoundRoute route;
        private final KnownIndex index;
        private final Progress progress;
        private final Fingerprint fingerprint = new Fingerprint();
        private final int[] keyAt;
        private final int[] usedAt;
        private final List<Candidate> chunk = new ArrayList<>();
        private final List<Line> pending = new ArrayList<>();
        private final Map<String, String> taken = new HashMap<>();
        private final RoaringBitmap unchanged = new RoaringBitmap();
        private final RoaringBitmap doubled = new RoaringBitmap();
        private long read;
        private int lineNumber;
        private int nextOrdinal;

        Drawing(long runId, BoundRoute route, KnownIndex index, Progress progress) {
            this.runId = runId;
            this.route = route;
            this.index = index;
            this.progress = progress;
            this.keyAt = route.columns().keyPositions();
            Set<String> used = route.route().columnsUsed();
            this.usedAt = used.stream()
                    .mapToInt(name -> route.columns().position(name).orElseThrow())
                    .toArray();
            this.nextOrdinal = records.nextOrdinal(route.routeId());
        }

        void row(@Nullable String[] cells) {
            read++;
            if ((read & 1023) == 0) {
                progress.add(1024);
            }
            Optional<String> key = RecordKey.of(keyAt, cells);
            if (key.isEmpty()) {
                held(0, "row " + read, "no-key", "The key is empty (row " + read + " as read)");
                return;
            }
            long[] hash = fingerprint.key(key.get());
            int slot = index.find(hash[0], hash[1]);
            boolean known = slot >= 0;
            int ordinal = known ? index.ordinal(slot) : nextOrdinal++;
            if (!known) {
                index.put(hash[0], hash[1], 0, ordinal, false, false);
                slot = index.find(hash[0], hash[1]);
            }
            if (!index.meet(slot)) {
                doubled.add(ordinal);
                held(ordinal, key.get(), "doubled-key", "More than one row has the key " + key.get());
                return;
            }
            long input = fingerprint.input(route.salt(), usedAt, cells);
            if (known && index.input(slot) == input) {
                if (index.refused(slot)) {
                    refusedBefore(ordinal, key.get());
                } else {
                    unchanged.add(ordinal);
                }
                return;
            }
            chunk.add(
                    new Candidate(key.get(), hash[0], hash[1], ordinal, known, input, Row.of(route.columns(), cells)));
            if (chunk.size() == CHUNK) {
                judgeChunk();
            }
        }

        private void held(int ordinal, String key, String code, String reason) {
            pending.add(new Line(
                    ++lineNumber,
                    ordinal,
                    key,
                    "",
                    Verdict.HELD,
                    LineState.NONE,
                    code,
                    reason,
                    "",
                    List.of(),
                    0,
                    0,
                    Optional.empty()));
            if (pending.size() == CHUNK) {
                flush();
            }
        }

        private void refusedBefore(int ordinal, String key) {
            String refusal = Optional.ofNullable(
                            records.bound(route, List.of(ordinal)).get(ordinal))
                    .map(RouteRecords.Bound::refusal)
                    .orElse("");
            held(ordinal, key, "refused", refusal);
        }

        private void judgeChunk() {
            if (chunk.isEmpty()) {
                return;
            }
            List<ChunkJudge.Judged> judged = judge.judge(route, chunk, taken, Trace.NONE);
            Map<Integer, String> labels = new HashMap<>();
            judged.forEach(
                    one -> labels.put(one.candidate().ordinal(), one.shaped().label()));
            records.addNew(
                    route.routeId(),
                    chunk.stream().filter(candidate -> !candidate.known()).toList(),
                    labels);
            List<Integer> ordinals = new ArrayList<>();
            List<Long> inputs = new ArrayList<>();
            List<Long> sent = new ArrayList<>();
            for (ChunkJudge.Judged one : judged) {
                if (one.decision().verdict() != Verdict.UNCHANGED) {
                    pending.add(one.line(++lineNumber));
                    continue;
                }
                unchanged.add(one.candidate().ordinal());
                if (one.standing() instanceof Standing.There there
                        && !there.matchedBy().isEmpty()) {
                    records.adopt(route, runId, one.candidate().ordinal(), there, one.values());
                }
                if (one.settled()) {
                    ordinals.add(one.candidate().ordinal());
                    inputs.add(one.candidate().inputFingerprint());
                    sent.add(one.sentFingerprint());
                }
            }
            records.unchanged(route.routeId(), ordinals, inputs, sent);
            chunk.clear();
            flush();
        }

        private void flush() {
            lines.add(runId, pending);
            pending.clear();
        }

        Drawn finish(long knownBefore, long missing) {
            judgeChunk();
            flush();
            if (!doubled.isEmpty()) {
                RoaringBitmap without = RoaringBitmap.and(unchanged, doubled);
                Map<Integer, String> keys = new HashMap<>();
                lines.keys(route.routeId(), without).forEach(keys::put);
                without.forEach((int ordinal) -> held(
                        ordinal,
                        keys.getOrDefault(ordinal, ""),
                        "doubled-key",
                        "More than one row has the key " + keys.getOrDefault(ordinal, "")));
                flush();
                unchanged.andNot(doubled);
                lines.holdDoubled(runId, doubled);
            }
            Map<Verdict, Long> counts = lines.countByVerdict(runId);
            for (Verdict verdict : EnumSet.allOf(Verdict.class)) {
                counts.putIfAbsent(verdict, 0L);
            }
            Sums sums = new Sums(
                    read,
                    counts.get(Verdict.ADDED),
                    counts.get(Verdict.CHANGED),
                    counts.get(Verdict.REMOVED),
                    unchanged.getLongCardinality(),
                    counts.get(Verdict.HELD),
                    counts.get(Verdict.LEFT_OUT));
            return new Drawn(sums, knownBefore, missing, unchanged);
        }
    }
}

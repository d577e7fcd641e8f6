package remitto.server.rehearsal;

import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.springframework.stereotype.Component;
import remitto.core.dataset.RecordKey;
import remitto.core.dataset.Row;
import remitto.core.expectation.HeldRows;
import remitto.core.known.Fingerprint;
import remitto.core.known.KnownIndex;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Verdict;
import remitto.core.route.Trace;
import remitto.core.value.Value;
import remitto.server.expectation.ReadWatches;
import remitto.server.job.JobProgress;
import remitto.server.known.Candidate;
import remitto.server.known.RouteRecords;
import remitto.server.planning.ChunkJudge;
import remitto.server.platform.Personal;
import remitto.server.route.BoundRoute;
import remitto.server.source.Sources;

/** What another version would make of the rows: judged by both on the path of the run, with nothing written down. */
@Component
class WhatIf {
    private static final int CHUNK = 500;
    private static final int EXAMPLES = 60;
    private static final Duration TIME = Duration.ofMinutes(5);

    private final Sources sources;
    private final ReadWatches watches;
    private final RouteRecords records;
    private final ChunkJudge judge;
    private final Clock clock;

    WhatIf(Sources sources, ReadWatches watches, RouteRecords records, ChunkJudge judge, Clock clock) {
        this.sources = sources;
        this.watches = watches;
        this.records = records;
        this.judge = judge;
        this.clock = clock;
    }

    /** One side's outcome for one field of a record; absent where it has no rule. */
    record VersionOutcome(
            FieldOutcome outcome,
            @Personal String value,
            @Personal(Personal.Part.IN_TEXT) String reason) {}

    /** A field of a record under two versions. */
    record FieldUnderBoth(
            String field,
            @Personal Optional<String> there,
            Optional<VersionOutcome> before,
            Optional<VersionOutcome> after) {}

    /**
     * A record that the two versions treat differently.
     *
     * @param before absent where there is no row of that key, as {@code after}
     */
    record RecordUnderBoth(
            @Personal(Personal.Part.KEY) String key,
            @Personal String label,
            Optional<Verdict> before,
            Optional<Verdict> after,
            List<FieldUnderBoth> fields) {}

    /**
     * How often a field would be written or held, before and after a change.
     *
     * @param writtenBefore records in which the field is written by the version in service
     */
    record FieldEffect(String field, long writtenBefore, long writtenAfter, long heldBefore, long heldAfter) {}

    /**
     * What a change would do to the records of a route.
     *
     * @param rows that were judged
     * @param whole false when there are more, and only keys that both have are compared
     * @param gone keys without a row under the other version
     * @param come keys that have one only there
     * @param before records by verdict under the version in service
     * @param after under the other
     * @param differ records that the two treat differently
     */
    record Effect(
            long rows,
            boolean whole,
            long gone,
            long come,
            Map<Verdict, Long> before,
            Map<Verdict, Long> after,
            long differ,
            List<FieldEffect> fields,
            List<RecordUnderBoth> examples) {}

    /** @param most rows to look at; two versions of the dataset are read one after the other and held in memory */
    Effect compare(BoundRoute before, BoundRoute after, int most, JobProgress progress) {
        Counting counting = new Counting(before, after, progress);
        if (before.dataset().equals(after.dataset())) {
            KnownIndex index = records.load(before.routeId(), clock.instant());
            List<Candidate> chunk = new ArrayList<>();
            int read = read(before, index, most, candidate -> {
                chunk.add(candidate);
                if (chunk.size() == CHUNK) {
                    counting.take(chunk, chunk);
                    chunk.clear();
                }
            });
            counting.take(chunk, chunk);
            return counting.effect(read, read < most);
        }
        return compareDatasets(before, after, most, counting);
    }

    private Effect compareDatasets(BoundRoute before, BoundRoute after, int most, Counting counting) {
        KnownIndex index = records.load(before.routeId(), clock.instant());
        Map<String, Candidate> old = new LinkedHashMap<>();
        Map<String, Candidate> fresh = new LinkedHashMap<>();
        int readBefore = read(before, index, most, one -> old.put(one.key(), one));
        int readAfter = read(after, index, most, one -> fresh.put(one.key(), one));
        boolean whole = readBefore < most && readAfter < most;
        Set<String> keys = new LinkedHashSet<>(old.keySet());
        keys.addAll(fresh.keySet());
        if (!whole) {
            keys.retainAll(old.keySet());
            keys.retainAll(fresh.keySet());
        }
        List<String> every = List.copyOf(keys);
        for (int from = 0; from < every.size(); from += CHUNK) {
            List<String> some = every.subList(from, Math.min(every.size(), from + CHUNK));
            counting.take(of(some, old), of(some, fresh));
        }
        return counting.effect(Math.max(readBefore, readAfter), whole);
    }

    private static List<Candidate> of(List<String> keys, Map<String, Candidate> candidates) {
        return keys.stream()
                .filter(candidates::containsKey)
                .map(candidates::get)
                .toList();
    }

    private int read(BoundRoute route, KnownIndex index, int most, Consumer<Candidate> sink) {
        int[] read = new int[1];
        Fingerprint fingerprint = new Fingerprint();
        int[] keyAt = route.columns().keyPositions();
        sources.rows(route.sourceId()).read(route.dataset().reading(TIME), cells -> {
            if (read[0] == most) {
                return false;
            }
            read[0]++;
            Optional<String> key = RecordKey.of(keyAt, cells);
            if (key.isPresent()) {
                long[] hash = fingerprint.key(key.get());
                int slot = index.find(hash[0], hash[1]);
                sink.accept(new Candidate(
                        key.get(),
                        hash[0],
                        hash[1],
                        slot < 0 ? 0 : index.ordinal(slot),
                        slot >= 0,
                        0,
                        Row.of(route.columns(), cells)));
            }
            return true;
        });
        return read[0];
    }

    private final class Counting {
        private final JobProgress progress;
        private final BoundRoute before;
        private final BoundRoute after;
        private final HeldRows expectedBefore;
        private final HeldRows expectedAfter;
        private final Map<Verdict, Long> verdictsBefore = new TreeMap<>();
        private final Map<Verdict, Long> verdictsAfter = new TreeMap<>();
        private final Map<String, long[]> fields = new LinkedHashMap<>();
        private final List<RecordUnderBoth> examples = new ArrayList<>();
        private final Map<String, String> takenBefore = new HashMap<>();
        private final Map<String, String> takenAfter = new HashMap<>();
        private long differ;
        private long gone;
        private long come;

        Counting(BoundRoute before, BoundRoute after, JobProgress progress) {
            this.progress = progress;
            this.before = before;
            this.after = after;
            this.expectedBefore = watches.heldRows(before.sourceId(), before.dataset());
            this.expectedAfter = watches.heldRows(after.sourceId(), after.dataset());
        }

        void take(List<Candidate> rowsBefore, List<Candidate> rowsAfter) {
            progress.rows(Math.max(rowsBefore.size(), rowsAfter.size()));
            Map<String, ChunkJudge.Judged> old = judged(before, rowsBefore, takenBefore);
            Map<String, ChunkJudge.Judged> fresh = judged(after, rowsAfter, takenAfter);
            Set<String> keys = new LinkedHashSet<>(old.keySet());
            keys.addAll(fresh.keySet());
            keys.forEach(key -> count(Optional.ofNullable(old.get(key)), Optional.ofNullable(fresh.get(key))));
        }

        private Map<String, ChunkJudge.Judged> judged(
                BoundRoute route, List<Candidate> rows, Map<String, String> taken) {
            Map<String, ChunkJudge.Judged> judged = new LinkedHashMap<>();
            if (!rows.isEmpty()) {
                HeldRows expected = route == before ? expectedBefore : expectedAfter;
                judge.judge(new ChunkJudge.Asked(route, expected, Trace.NONE), rows, taken)
                        .forEach(one -> judged.put(one.candidate().key(), one));
            }
            return judged;
        }

        private void count(Optional<ChunkJudge.Judged> old, Optional<ChunkJudge.Judged> fresh) {
            Optional<Verdict> was = old.map(one -> one.decision().verdict());
            Optional<Verdict> is = fresh.map(one -> one.decision().verdict());
            was.ifPresentOrElse(verdict -> verdictsBefore.merge(verdict, 1L, Long::sum), () -> come++);
            is.ifPresentOrElse(verdict -> verdictsAfter.merge(verdict, 1L, Long::sum), () -> gone++);
            old.ifPresent(one -> sum(one, 0));
            fresh.ifPresent(one -> sum(one, 1));
            List<FieldUnderBoth> beside = beside(old, fresh);
            if (!was.equals(is) || !beside.isEmpty()) {
                differ++;
                if (examples.size() < EXAMPLES) {
                    ChunkJudge.Judged shown = fresh.or(() -> old).orElseThrow();
                    examples.add(new RecordUnderBoth(
                            shown.candidate().key(), shown.shaped().label(), was, is, beside));
                }
            }
        }

        private void sum(ChunkJudge.Judged judged, int side) {
            for (FieldDecision field : judged.decision().fields()) {
                long[] counts = fields.computeIfAbsent(field.field(), name -> new long[4]);
                if (field.outcome() == FieldOutcome.WRITTEN) {
                    counts[side]++;
                } else if (field.outcome() == FieldOutcome.HELD) {
                    counts[2 + side]++;
                }
            }
        }

        private List<FieldUnderBoth> beside(Optional<ChunkJudge.Judged> old, Optional<ChunkJudge.Judged> fresh) {
            Map<String, FieldDecision> one = old.map(Counting::moving).orElse(Map.of());
            Map<String, FieldDecision> other = fresh.map(Counting::moving).orElse(Map.of());
            Map<String, FieldDecision> every = new LinkedHashMap<>(one);
            every.putAll(other);
            List<FieldUnderBoth> beside = new ArrayList<>();
            every.forEach((name, decision) -> {
                Optional<VersionOutcome> left =
                        Optional.ofNullable(one.get(name)).map(Counting::side);
                Optional<VersionOutcome> right =
                        Optional.ofNullable(other.get(name)).map(Counting::side);
                if (!left.equals(right)) {
                    beside.add(new FieldUnderBoth(
                            name,
                            decision.old() instanceof Value.Missing
                                    ? Optional.empty()
                                    : Optional.of(decision.old().display()),
                            left,
                            right));
                }
            });
            return beside;
        }

        /** Fields for which something happens; what stays as it is has no side. */
        private static Map<String, FieldDecision> moving(ChunkJudge.Judged judged) {
            Map<String, FieldDecision> moving = new LinkedHashMap<>();
            judged.decision().fields().stream()
                    .filter(field -> field.outcome() == FieldOutcome.WRITTEN
                            || field.outcome() == FieldOutcome.HELD
                            || field.outcome() == FieldOutcome.WAITS)
                    .forEach(field -> moving.put(field.field(), field));
            return moving;
        }

        private static VersionOutcome side(FieldDecision decision) {
            return new VersionOutcome(decision.outcome(), decision.fresh().display(), decision.reason());
        }

        Effect effect(long rows, boolean whole) {
            List<FieldEffect> counts = new ArrayList<>();
            fields.forEach((name, four) -> {
                if (four[0] + four[1] + four[2] + four[3] > 0) {
                    counts.add(new FieldEffect(name, four[0], four[1], four[2], four[3]));
                }
            });
            return new Effect(rows, whole, gone, come, verdictsBefore, verdictsAfter, differ, counts, examples);
        }
    }
}

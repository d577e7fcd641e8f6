package remitto.server.run;

import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.springframework.stereotype.Component;
import remitto.connect.warehouse.Warehouse;
import remitto.core.dataset.Column;
import remitto.core.dataset.RecordKey;
import remitto.core.dataset.Row;
import remitto.core.known.Fingerprint;
import remitto.core.known.KnownIndex;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Trace;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;
import remitto.server.route.BoundRoute;
import remitto.server.source.Sources;

/** What another version would make of the rows: judged by both on the path of the run, with nothing written down. */
@Component
class WhatIf {
    private static final int CHUNK = 500;
    private static final int EXAMPLES = 60;
    private static final Duration TIME = Duration.ofMinutes(5);

    private final Sources sources;
    private final RouteRecords records;
    private final ChunkJudge judge;
    private final Clock clock;

    WhatIf(Sources sources, RouteRecords records, ChunkJudge judge, Clock clock) {
        this.sources = sources;
        this.records = records;
        this.judge = judge;
        this.clock = clock;
    }

    /** One side's outcome for one field of a record; absent where it has no rule. */
    record Side(FieldOutcome outcome, String value, String reason) {}

    record FieldUnderBoth(String field, Optional<String> there, Optional<Side> before, Optional<Side> after) {}

    /** A record that the two versions treat differently. */
    record RecordUnderBoth(String key, String label, Verdict before, Verdict after, List<FieldUnderBoth> fields) {}

    /** @param writtenBefore records in which the field is written by the version in service */
    record FieldSum(String field, long writtenBefore, long writtenAfter, long heldBefore, long heldAfter) {}

    /**
     * @param rows that were judged; @param whole false when there are more
     * @param before records by verdict under the version in service, @param after under the other
     * @param differ records that the two treat differently
     */
    record Effect(
            long rows,
            boolean whole,
            Map<Verdict, Long> before,
            Map<Verdict, Long> after,
            long differ,
            List<FieldSum> fields,
            List<RecordUnderBoth> examples) {}

    /** @param most rows to look at */
    Effect compare(BoundRoute before, BoundRoute after, int most) {
        KnownIndex index = records.load(before.routeId(), clock.instant());
        Counting counting = new Counting(before, after);
        List<Candidate> chunk = new ArrayList<>();
        int[] read = new int[1];
        Fingerprint fingerprint = new Fingerprint();
        int[] keyAt = before.columns().keyPositions();
        List<String> names = before.columns().list().stream().map(Column::name).toList();
        sources.warehouse(before.sourceId())
                .read(Warehouse.single(before.dataset().query().text()), names, List.of(), TIME, cells -> {
                    if (read[0] == most) {
                        return false;
                    }
                    read[0]++;
                    Optional<String> key = RecordKey.of(keyAt, cells);
                    if (key.isPresent()) {
                        long[] hash = fingerprint.key(key.get());
                        int slot = index.find(hash[0], hash[1]);
                        chunk.add(new Candidate(
                                key.get(),
                                hash[0],
                                hash[1],
                                slot < 0 ? 0 : index.ordinal(slot),
                                slot >= 0,
                                0,
                                Row.of(before.columns(), cells)));
                    }
                    if (chunk.size() == CHUNK) {
                        counting.take(chunk);
                    }
                    return true;
                });
        counting.take(chunk);
        return counting.effect(read[0], read[0] < most);
    }

    private final class Counting {
        private final BoundRoute before;
        private final BoundRoute after;
        private final Map<Verdict, Long> verdictsBefore = new TreeMap<>();
        private final Map<Verdict, Long> verdictsAfter = new TreeMap<>();
        private final Map<String, long[]> fields = new LinkedHashMap<>();
        private final List<RecordUnderBoth> examples = new ArrayList<>();
        private final Map<String, String> takenBefore = new HashMap<>();
        private final Map<String, String> takenAfter = new HashMap<>();
        private long differ;

        Counting(BoundRoute before, BoundRoute after) {
            this.before = before;
            this.after = after;
        }

        void take(List<Candidate> chunk) {
            if (chunk.isEmpty()) {
                return;
            }
            List<ChunkJudge.Judged> old = judge.judge(before, chunk, takenBefore, Trace.NONE);
            List<ChunkJudge.Judged> fresh = judge.judge(after, chunk, takenAfter, Trace.NONE);
            for (int i = 0; i < old.size(); i++) {
                count(old.get(i), fresh.get(i));
            }
            chunk.clear();
        }

        private void count(ChunkJudge.Judged old, ChunkJudge.Judged fresh) {
            verdictsBefore.merge(old.decision().verdict(), 1L, Long::sum);
            verdictsAfter.merge(fresh.decision().verdict(), 1L, Long::sum);
            sum(old, 0);
            sum(fresh, 1);
            List<FieldUnderBoth> beside = beside(old, fresh);
            if (old.decision().verdict() != fresh.decision().verdict() || !beside.isEmpty()) {
                differ++;
                if (examples.size() < EXAMPLES) {
                    examples.add(new RecordUnderBoth(
                            old.candidate().key(),
                            fresh.shaped().label(),
                            old.decision().verdict(),
                            fresh.decision().verdict(),
                            beside));
                }
            }
        }

        private void sum(ChunkJudge.Judged judged, int side) {
            for (FieldDecision field : judged.decision().fields()) {
                long[] sums = fields.computeIfAbsent(field.field(), name -> new long[4]);
                if (field.outcome() == FieldOutcome.WRITTEN) {
                    sums[side]++;
                } else if (field.outcome() == FieldOutcome.HELD) {
                    sums[2 + side]++;
                }
            }
        }

        private List<FieldUnderBoth> beside(ChunkJudge.Judged old, ChunkJudge.Judged fresh) {
            Map<String, FieldDecision> one = moving(old);
            Map<String, FieldDecision> other = moving(fresh);
            Map<String, FieldDecision> every = new LinkedHashMap<>(one);
            every.putAll(other);
            List<FieldUnderBoth> beside = new ArrayList<>();
            every.forEach((name, decision) -> {
                Optional<Side> left = Optional.ofNullable(one.get(name)).map(Counting::side);
                Optional<Side> right = Optional.ofNullable(other.get(name)).map(Counting::side);
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

        private static Side side(FieldDecision decision) {
            return new Side(decision.outcome(), decision.fresh().display(), decision.reason());
        }

        Effect effect(long rows, boolean whole) {
            List<FieldSum> sums = new ArrayList<>();
            fields.forEach((name, four) -> {
                if (four[0] + four[1] + four[2] + four[3] > 0) {
                    sums.add(new FieldSum(name, four[0], four[1], four[2], four[3]));
                }
            });
            return new Effect(rows, whole, verdictsBefore, verdictsAfter, differ, sums, examples);
        }
    }
}

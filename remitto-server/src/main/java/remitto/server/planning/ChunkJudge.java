package remitto.server.planning;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import remitto.core.cause.Cause;
import remitto.core.dataset.Row;
import remitto.core.expectation.HeldRows;
import remitto.core.known.Fingerprint;
import remitto.core.known.RecordState;
import remitto.core.manifest.Decision;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Intention;
import remitto.core.manifest.Judge;
import remitto.core.manifest.JudgedRecord;
import remitto.core.manifest.LookingThere;
import remitto.core.manifest.MatchResult;
import remitto.core.manifest.Verdict;
import remitto.core.route.LookUps;
import remitto.core.route.ShapedRecord;
import remitto.core.route.Trace;
import remitto.core.value.Value;
import remitto.server.known.Candidate;
import remitto.server.known.ErasedRows;
import remitto.server.known.MatchResults;
import remitto.server.known.RouteRecords;
import remitto.server.manifest.Line;
import remitto.server.manifest.Origins;
import remitto.server.manifest.Step;
import remitto.server.route.BoundRoute;

/**
 * Judges records a chunk at a time: shaped by the rules, looked up there where that can matter, judged. The bulk
 * run, the single try and the followed record all come through here.
 */
@Component
public class ChunkJudge {
    private final RouteRecords records;
    private final MatchResults matchResults;
    private final LookUpFinder lookUps;
    private final SuppressedAddresses suppressed;
    private final ErasedRows erased;
    private final MessageLimits limits;
    private final Clock clock;

    ChunkJudge(
            RouteRecords records,
            MatchResults matchResults,
            LookUpFinder lookUps,
            SuppressedAddresses suppressed,
            ErasedRows erased,
            MessageLimits limits,
            Clock clock) {
        this.records = records;
        this.matchResults = matchResults;
        this.lookUps = lookUps;
        this.suppressed = suppressed;
        this.erased = erased;
        this.limits = limits;
        this.clock = clock;
    }

    /**
     * A judged record of a run.
     *
     * @param again when it is to be judged again though nothing of its row changed; absent where nothing calls for that
     * @param beyond steps of the values found beyond the row
     */
    public record Judged(
            Candidate candidate, JudgedRecord record, Optional<Instant> again, Map<String, List<Step>> beyond) {
        public ShapedRecord shaped() {
            return record.shaped();
        }

        public MatchResult matchResult() {
            return record.matchResult();
        }

        public Decision decision() {
            return record.decision();
        }

        /** @param inputColumns whose cells are kept with the line, to explain it by */
        Line line(int number, List<String> inputColumns) {
            Decision decision = decision();
            return new Line(
                    number,
                    candidate.ordinal(),
                    candidate.key(),
                    shaped().label(),
                    decision.verdict(),
                    decision.cause(),
                    decision.reason(),
                    decision.remoteId().orElse(""),
                    record.told(),
                    candidate.inputFingerprint(),
                    record.carriedOutByLine(),
                    !record.isSettled(),
                    record.readAt(),
                    record.isWorthExplaining() ? new Origins(inputs(inputColumns), beyond) : Origins.NONE);
        }

        private Map<String, String> inputs(List<String> columns) {
            Map<String, String> cells = new LinkedHashMap<>();
            for (String column : columns) {
                candidate.row().cell(column).ifPresent(cell -> cells.put(column, cell));
            }
            return cells;
        }

        RouteRecords.Remembered remembered(RecordState recordState, String reason) {
            Optional<Instant> recheck = Stream.concat(decision().recheckAt().stream(), again.stream())
                    .min(Instant::compareTo);
            return new RouteRecords.Remembered(
                    candidate.ordinal(),
                    candidate.inputFingerprint(),
                    record.carriedOut(),
                    recordState,
                    reason,
                    recheck);
        }

        /** On a list: the entry under the address the person had. */
        Line oldEntry(int number) {
            MatchResult.Matched there = (MatchResult.Matched) matchResult();
            return entry(number, Verdict.REMOVED, there.remoteId(), List.of());
        }

        /** On a list: the entry under the address the person has now. */
        Line newEntry(int number) {
            return entry(
                    number,
                    Verdict.ADDED,
                    "",
                    shaped().fields().stream()
                            .map(field -> new FieldDecision(
                                    field.field().name(),
                                    FieldOutcome.WRITTEN,
                                    Value.MISSING,
                                    shaped().value(field.field().name()),
                                    ""))
                            .toList());
        }

        private Line entry(int number, Verdict verdict, String remoteId, List<FieldDecision> fields) {
            return new Line(
                    number,
                    candidate.ordinal(),
                    candidate.key(),
                    shaped().label(),
                    verdict,
                    Cause.NONE,
                    "The address changed",
                    remoteId,
                    fields,
                    candidate.inputFingerprint(),
                    record.intended(),
                    record.readAt());
        }
    }

    /** Rows that are to be judged though nothing of them changed. */
    SuppressedAddresses.Sieve sieve(BoundRoute route) {
        return suppressed.sieve(route);
    }

    /**
     * By what records are judged.
     *
     * @param expected rows that are held since they do not meet what is expected of the dataset
     */
    public record Asked(BoundRoute route, HeldRows expected, Trace trace) {}

    /** @param taken records there that this run already gave away; added to */
    public List<Judged> judge(Asked asked, List<Candidate> candidates, Map<String, String> taken) {
        BoundRoute route = asked.route();
        Trace trace = asked.trace();
        Map<Integer, RouteRecords.Bound> bound = records.bound(
                route,
                candidates.stream()
                        .filter(Candidate::known)
                        .map(Candidate::ordinal)
                        .toList());
        LookUps found =
                lookUps.find(route, candidates.stream().map(Candidate::row).toList());
        Fingerprint fingerprint = new Fingerprint();
        Instant now = clock.instant();
        List<ShapedRecord> shaped = unsuppressed(route, candidates, shape(route, candidates, found, trace));
        List<Long> sent = new ArrayList<>();
        Set<Integer> look = new LinkedHashSet<>();
        MatchResult[] matchResult = new MatchResult[candidates.size()];
        for (int i = 0; i < candidates.size(); i++) {
            Candidate candidate = candidates.get(i);
            ShapedRecord record = shaped.get(i);
            sent.add(Intention.of(fingerprint, record, route.before()));
            RouteRecords.Bound known = bound.get(candidate.ordinal());
            boolean asSent = trace == Trace.NONE
                    && known != null
                    && !known.remoteId().isEmpty()
                    && known.sentFingerprint() == sent.get(i);
            if (LookingThere.isNeeded(record, asSent, route.route().spec().leavers())) {
                look.add(i);
            } else {
                matchResult[i] =
                        known == null || !known.isBound() ? new MatchResult.Unmatched(now) : known.asKnown(now);
            }
        }
        List<MatchResult> stands = matchResults.find(
                route,
                look.stream()
                        .map(i -> new MatchResults.Wanted(
                                shaped.get(i),
                                Optional.ofNullable(bound.get(candidates.get(i).ordinal()))))
                        .toList(),
                taken);
        int next = 0;
        for (int i : look) {
            matchResult[i] = stands.get(next++);
        }
        Map<String, String> over =
                limits.overLimit(route, candidates.stream().map(Candidate::key).toList());
        List<Judged> judged = new ArrayList<>();
        for (int i = 0; i < candidates.size(); i++) {
            Decision decision = look.contains(i) || !shaped.get(i).leftOut().isEmpty()
                    ? Judge.judge(route.route().spec(), shaped.get(i), matchResult[i])
                    : LookingThere.asSent(bound.get(candidates.get(i).ordinal()).remoteId());
            Decision within =
                    LookingThere.within(over.getOrDefault(candidates.get(i).key(), ""), shaped.get(i), decision);
            JudgedRecord record = new JudgedRecord(
                    shaped.get(i),
                    matchResult[i],
                    LookingThere.expected(asked.expected().of(candidates.get(i).row()), shaped.get(i), within),
                    sent.get(i));
            judged.add(new Judged(
                    candidates.get(i),
                    record,
                    route.lookedUpAgain(now),
                    trace == Trace.NONE && record.isWorthExplaining()
                            ? StepsBeyond.of(route, candidates.get(i), found)
                            : Map.of()));
        }
        return judged;
    }

    /** What rows say as things are now, by key; whether they may be sent at all, and what of them. */
    public Map<String, ShapedRecord> asTheyAre(BoundRoute route, List<Row> rows) {
        List<Candidate> candidates = rows.stream()
                .flatMap(row -> row.key().map(key -> new Candidate(key, 0, 0, 0, false, 0, row)).stream())
                .toList();
        Map<String, ShapedRecord> records = new HashMap<>();
        unsuppressed(route, candidates, shape(route, candidates, LookUps.NONE, Trace.NONE))
                .forEach(record -> records.put(record.key(), record));
        return records;
    }

    /** Shaping is pure and takes the most time of all, so that every core helps; a trace is told in order. */
    private static List<ShapedRecord> shape(BoundRoute route, List<Candidate> candidates, LookUps found, Trace trace) {
        Stream<Candidate> stream = trace == Trace.NONE ? candidates.parallelStream() : candidates.stream();
        return stream.map(candidate -> route.route().shape(candidate.key(), candidate.row(), found, trace))
                .toList();
    }

    /** What is on the suppression list, or was erased, is as good as a no that was stated. */
    private List<ShapedRecord> unsuppressed(BoundRoute route, List<Candidate> candidates, List<ShapedRecord> shaped) {
        Map<String, Row> rows = new HashMap<>();
        candidates.forEach(candidate -> rows.put(candidate.key(), candidate.row()));
        Map<String, String> reasons = new HashMap<>(suppressed.reasons(route, rows));
        ErasedRows.Erased gone = erased.of(route);
        rows.forEach((key, row) -> gone.reason(key, row).ifPresent(why -> reasons.put(key, why)));
        return reasons.isEmpty()
                ? shaped
                : shaped.stream()
                        .map(one -> reasons.containsKey(one.key()) ? one.refused(reasons.get(one.key())) : one)
                        .toList();
    }
}

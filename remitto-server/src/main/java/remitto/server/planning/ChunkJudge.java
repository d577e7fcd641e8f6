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
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import remitto.core.cause.Cause;
import remitto.core.dataset.Row;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Written;
import remitto.core.known.Fingerprint;
import remitto.core.known.Stance;
import remitto.core.manifest.Decision;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Judge;
import remitto.core.manifest.MaySend;
import remitto.core.manifest.Standing;
import remitto.core.manifest.Verdict;
import remitto.core.route.LookUps;
import remitto.core.route.ShapedField;
import remitto.core.route.ShapedRecord;
import remitto.core.route.Trace;
import remitto.core.shaper.Shaped;
import remitto.core.value.Value;
import remitto.server.known.Candidate;
import remitto.server.known.ErasedRows;
import remitto.server.known.RouteRecords;
import remitto.server.known.Standings;
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
    private final Standings standings;
    private final LookUpFinder lookUps;
    private final SuppressedAddresses suppressed;
    private final ErasedRows erased;
    private final MessageLimits limits;
    private final Clock clock;

    ChunkJudge(
            RouteRecords records,
            Standings standings,
            LookUpFinder lookUps,
            SuppressedAddresses suppressed,
            ErasedRows erased,
            MessageLimits limits,
            Clock clock) {
        this.records = records;
        this.standings = standings;
        this.lookUps = lookUps;
        this.suppressed = suppressed;
        this.erased = erased;
        this.limits = limits;
        this.clock = clock;
    }

    /**
     * A judged record with all that it was judged by.
     *
     * @param again when it is to be judged again though nothing of its row changed; absent where nothing calls for that
     * @param beyond steps of the values found beyond the row
     */
    public record Judged(
            Candidate candidate,
            ShapedRecord shaped,
            Standing standing,
            Decision decision,
            long sentFingerprint,
            Optional<Instant> again,
            Map<String, List<Step>> beyond) {
        /** True when nothing depends on another look: every rule gave a usable value that was not held. */
        boolean settled() {
            return !decision.holdsAnyValue() && decision.verdict() != Verdict.HELD;
        }

        /** True when a value waits or theirs was kept, which is worth a line though nothing goes. */
        boolean withholds() {
            Set<String> standing = shaped.fields().stream()
                    .map(ShapedField::rule)
                    .filter(rule -> rule.written() == Written.ALWAYS || rule.written() == Written.IF_NEWER)
                    .map(FieldRule::field)
                    .collect(Collectors.toSet());
            return decision.fields().stream()
                    .anyMatch(field -> field.outcome() == FieldOutcome.WAITS
                            || field.outcome() == FieldOutcome.KEPT
                                    && standing.contains(field.field())
                                    && !field.fresh().isEmpty()
                                    && !field.fresh().equals(field.old()));
        }

        /** 0 while a value waits, so that equal intentions do not pass for having been carried out. */
        private long sentNow() {
            return decision.fields().stream().anyMatch(field -> field.outcome() == FieldOutcome.WAITS)
                    ? 0
                    : sentFingerprint;
        }

        /** @param inputColumns whose cells are kept with the line, to explain it by */
        Line line(int number, List<String> inputColumns) {
            boolean goes = decision.verdict() == Verdict.ADDED || decision.verdict() == Verdict.CHANGED;
            return new Line(
                    number,
                    candidate.ordinal(),
                    candidate.key(),
                    shaped.label(),
                    decision.verdict(),
                    decision.cause(),
                    decision.reason(),
                    decision.remoteId().orElse(""),
                    decision.fields().stream()
                            .filter(field -> field.outcome() != FieldOutcome.SAME || !goes)
                            .toList(),
                    candidate.inputFingerprint(),
                    settled() ? sentNow() : 0,
                    !settled(),
                    readAt(standing),
                    worthKeeping(decision) ? new Origins(inputs(inputColumns), beyond) : Origins.NONE);
        }

        private Map<String, String> inputs(List<String> columns) {
            Map<String, String> cells = new LinkedHashMap<>();
            for (String column : columns) {
                candidate.row().cell(column).ifPresent(cell -> cells.put(column, cell));
            }
            return cells;
        }

        RouteRecords.Remembered remembered(Stance stance, String reason) {
            Optional<Instant> recheck =
                    Stream.concat(decision.recheckAt().stream(), again.stream()).min(Instant::compareTo);
            return new RouteRecords.Remembered(
                    candidate.ordinal(), candidate.inputFingerprint(), sentNow(), stance, reason, recheck);
        }

        /** The value of the key field, as text. */
        String keyValue(BoundRoute route) {
            return shaped.value(route.route().spec().match().get(0)).display();
        }

        /** On a list: the entry under the address the person had. */
        Line oldEntry(int number) {
            Standing.There there = (Standing.There) standing;
            return entry(number, Verdict.REMOVED, "The address changed", there.remoteId());
        }

        /** On a list: the entry under the address the person has now. */
        Line newEntry(int number) {
            return entry(number, Verdict.ADDED, "The address changed", "");
        }

        private Line entry(int number, Verdict verdict, String reason, String remoteId) {
            List<FieldDecision> fields = verdict == Verdict.REMOVED
                    ? List.of()
                    : shaped.fields().stream()
                            .map(field -> new FieldDecision(
                                    field.field().name(),
                                    FieldOutcome.WRITTEN,
                                    Value.MISSING,
                                    shaped.value(field.field().name()),
                                    ""))
                            .toList();
            return new Line(
                    number,
                    candidate.ordinal(),
                    candidate.key(),
                    shaped.label(),
                    verdict,
                    Cause.NONE,
                    reason,
                    remoteId,
                    fields,
                    candidate.inputFingerprint(),
                    sentFingerprint,
                    readAt(standing));
        }

        Map<String, Value> values() {
            Map<String, Value> values = new HashMap<>();
            decision.fields().stream()
                    .filter(field -> field.outcome() == FieldOutcome.SAME)
                    .forEach(field -> values.put(field.field(), field.fresh()));
            return values;
        }
    }

    private static Optional<Instant> readAt(Standing standing) {
        if (standing instanceof Standing.There there) {
            return Optional.of(there.readAt());
        }
        return standing instanceof Standing.NotThere notThere ? Optional.of(notThere.readAt()) : Optional.empty();
    }

    /** Rows that are to be judged though nothing of them changed. */
    SuppressedAddresses.Sieve sieve(BoundRoute route) {
        return suppressed.sieve(route);
    }

    /** @param taken records there that this run already gave away; added to */
    public List<Judged> judge(BoundRoute route, List<Candidate> candidates, Map<String, String> taken, Trace trace) {
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
        Standing[] standing = new Standing[candidates.size()];
        for (int i = 0; i < candidates.size(); i++) {
            Candidate candidate = candidates.get(i);
            ShapedRecord record = shaped.get(i);
            sent.add(intended(fingerprint, route, record));
            RouteRecords.Bound known = bound.get(candidate.ordinal());
            boolean asSent = trace == Trace.NONE
                    && known != null
                    && !known.remoteId().isEmpty()
                    && known.sentFingerprint() == sent.get(i);
            boolean goes = record.statedNo() && route.route().spec().leavers().removes();
            if (record.leftOut().isEmpty() && !asSent || goes) {
                look.add(i);
            } else {
                standing[i] = known == null || !known.isBound() ? new Standing.NotThere(now) : known.asKnown(now);
            }
        }
        List<Standing> stands = standings.find(
                route,
                look.stream()
                        .map(i -> new Standings.Wanted(
                                shaped.get(i),
                                Optional.ofNullable(bound.get(candidates.get(i).ordinal()))))
                        .toList(),
                taken);
        int next = 0;
        for (int i : look) {
            standing[i] = stands.get(next++);
        }
        Map<String, String> quiet =
                limits.quiet(route, candidates.stream().map(Candidate::key).toList());
        List<Judged> judged = new ArrayList<>();
        for (int i = 0; i < candidates.size(); i++) {
            Decision loud = look.contains(i) || !shaped.get(i).leftOut().isEmpty()
                    ? Judge.judge(route.route().spec(), shaped.get(i), standing[i])
                    : new Decision(
                            Verdict.UNCHANGED,
                            Cause.NONE,
                            "",
                            Optional.of(bound.get(candidates.get(i).ordinal()).remoteId()),
                            List.of());
            String enough = quiet.getOrDefault(candidates.get(i).key(), "");
            Decision decision =
                    enough.isEmpty() || MaySend.takesBack(shaped.get(i), loud.fields()) ? loud : loud.quiet(enough);
            boolean kept = trace == Trace.NONE && worthKeeping(decision);
            judged.add(new Judged(
                    candidates.get(i),
                    shaped.get(i),
                    standing[i],
                    decision,
                    sent.get(i),
                    route.lookedUpAgain(now),
                    kept ? StepsBeyond.of(route, candidates.get(i), found) : Map.of()));
        }
        return judged;
    }

    private static boolean worthKeeping(Decision decision) {
        return decision.verdict() == Verdict.ADDED || decision.verdict() == Verdict.CHANGED || decision.holdsAnyValue();
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

    /** A fingerprint of what the rules want to be there; equal means there is nothing to send. */
    private static long intended(Fingerprint fingerprint, BoundRoute route, ShapedRecord record) {
        List<String> texts = new ArrayList<>();
        for (ShapedField field : record.fields()) {
            texts.add(field.field().name());
            texts.add(field.rule().written().name());
            texts.add(field.emptiness().map(one -> one.choice().name()).orElse(""));
            texts.add(field.said().map(Enum::name).orElse(""));
            texts.add(Long.toString(field.mark()));
            texts.add(route.before()
                    .getOrDefault(field.field().name(), Map.of())
                    .keySet()
                    .toString());
            texts.add(
                    field.shaped() instanceof Shaped.Usable usable
                            ? "=" + usable.value().display()
                            : "?");
        }
        return fingerprint.of(texts);
    }
}

package remitto.server.planning;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.dataset.RecordKey;
import remitto.core.dataset.Row;
import remitto.core.expectation.HeldRows;
import remitto.core.known.Fingerprint;
import remitto.core.known.KnownIndex;
import remitto.core.known.RecordState;
import remitto.core.manifest.AsBefore;
import remitto.core.manifest.Becoming;
import remitto.core.manifest.MatchResult;
import remitto.core.manifest.Verdict;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.Trace;
import remitto.core.run.RunCounts;
import remitto.server.known.Candidate;
import remitto.server.known.ErasedRows;
import remitto.server.known.RouteRecords;
import remitto.server.manifest.Line;
import remitto.server.manifest.Lines;
import remitto.server.route.BoundRoute;
import remitto.server.run.Prepared;
import remitto.server.run.Turns;

/** One pass over a dataset, or over a part of it. Not safe to share between threads. */
final class Preparation {
    private static final int CHUNK = 1_000;

    private final Tools tools;
    private final long runId;
    private final BoundRoute route;
    private final KnownIndex index;
    private final Fingerprint fingerprint = new Fingerprint();
    private final int[] keyAt;
    private final Inputs inputs;
    private final boolean waitsForChange;
    private final SuppressedAddresses.Sieve sieve;
    private final ErasedRows.Erased erased;
    private final List<String> inputColumns;
    private final List<Candidate> chunk = new ArrayList<>();
    private final List<Line> pending = new ArrayList<>();
    private final Map<String, String> taken = new HashMap<>();
    private final RoaringBitmap unchanged = new RoaringBitmap();
    private final RoaringBitmap leftOut = new RoaringBitmap();
    private final RoaringBitmap doubled = new RoaringBitmap();
    private long read;
    private long leaving;
    private long adopted;
    private long keyless;
    private int lineNumber;
    private int nextOrdinal;

    record Tools(
            RouteRecords records,
            ChunkJudge judge,
            LeaverChunks leavers,
            Lines lines,
            ErasedRows erased,
            HeldRows expected,
            Turns.Turn turn) {}

    /** @param first the route reads its dataset for the first time */
    Preparation(Tools tools, BoundRoute route, KnownIndex index, Inputs inputs, boolean first) {
        this.tools = tools;
        this.runId = tools.turn().runId();
        this.route = route;
        this.index = index;
        this.keyAt = route.columns().keyPositions();
        this.inputs = inputs;
        this.sieve = tools.judge().sieve(route);
        this.erased = tools.erased().of(route);
        this.inputColumns = route.inputColumns();
        this.nextOrdinal = tools.records().nextOrdinal(route.routeId());
        this.waitsForChange = first
                && route.route()
                        .spec()
                        .firstRun()
                        .filter(choice -> choice.olderRows() == FirstRun.OlderRows.WAIT_FOR_CHANGE)
                        .isPresent();
    }

    /** Rows that were read so far. */
    long read() {
        return read;
    }

    /** @return true once every 1,024 rows, for those who count */
    boolean row(@Nullable String[] cells) {
        read++;
        Optional<String> key = RecordKey.of(keyAt, cells);
        if (key.isEmpty()) {
            keyless++;
            held(0, "row " + read, Cause.of(CauseKind.NO_KEY), "The key is empty (row " + read + " as read)");
        } else {
            keyed(key.get(), cells);
        }
        return (read & 1023) == 0;
    }

    private void keyed(String key, @Nullable String[] cells) {
        long[] hash = fingerprint.key(key);
        int slot = index.find(hash[0], hash[1]);
        if (!erased.isNobody() && erased(key, Row.of(route.columns(), cells))) {
            if (slot >= 0) {
                index.meet(slot);
                tools.records().forgetName(route.routeId(), index.ordinal(slot));
            }
            return;
        }
        boolean known = slot >= 0;
        int ordinal = known ? index.ordinal(slot) : nextOrdinal++;
        if (!known) {
            index.put(hash[0], hash[1], 0, ordinal, RecordState.NONE, false);
            slot = index.find(hash[0], hash[1]);
        }
        if (!index.meet(slot)) {
            doubled.add(ordinal);
            held(ordinal, key, Cause.of(CauseKind.DOUBLED_KEY), "More than one row has the key " + key);
            return;
        }
        long input = inputs.of(cells);
        boolean sameInput = known && index.input(slot) == input;
        if (AsBefore.isPassedOver(known, sameInput, sameInput && caught(key, cells))) {
            asBefore(ordinal, key, index.recordState(slot));
            return;
        }
        add(new Candidate(key, hash[0], hash[1], ordinal, known, input, Row.of(route.columns(), cells)));
    }

    private boolean erased(String key, Row row) {
        Optional<String> reason = erased.reason(key, row);
        reason.ifPresent(why -> write(Line.nameless(++lineNumber, "Erased", Cause.of(CauseKind.ERASED), why)));
        return reason.isPresent();
    }

    private boolean caught(String key, @Nullable String[] cells) {
        return sieve != SuppressedAddresses.Sieve.NOTHING && sieve.catches(key, Row.of(route.columns(), cells));
    }

    private void asBefore(int ordinal, String key, RecordState recordState) {
        switch (AsBefore.of(recordState)) {
            case HELD -> held(ordinal, key, Cause.of(AsBefore.cause(recordState)), reason(ordinal));
            case LEFT_OUT -> leftOut.add(ordinal);
            case UNCHANGED -> unchanged.add(ordinal);
        }
    }

    private String reason(int ordinal) {
        return Optional.ofNullable(
                        tools.records().bound(route, List.of(ordinal)).get(ordinal))
                .map(RouteRecords.Bound::recordStateReason)
                .orElse("");
    }

    /** A single record, whatever its input was. */
    void candidate(Candidate candidate) {
        read++;
        if (erased(candidate.key(), candidate.row())) {
            return;
        }
        add(
                candidate.known()
                        ? candidate
                        : new Candidate(
                                candidate.key(),
                                candidate.keyHigh(),
                                candidate.keyLow(),
                                nextOrdinal++,
                                false,
                                candidate.inputFingerprint(),
                                candidate.row()));
    }

    private void add(Candidate candidate) {
        chunk.add(candidate);
        if (chunk.size() == CHUNK) {
            judgeChunk();
        }
    }

    private void held(int ordinal, String key, Cause cause, String reason) {
        write(Line.held(++lineNumber, ordinal, key, cause, reason));
    }

    private void write(Line line) {
        pending.add(line);
        if (pending.size() >= CHUNK) {
            flush();
        }
    }

    private void judgeChunk() {
        if (chunk.isEmpty()) {
            return;
        }
        if (waitsForChange) {
            tools.turn().write(this::noteOlder);
            chunk.forEach(one -> leftOut.add(one.ordinal()));
            chunk.clear();
            return;
        }
        List<ChunkJudge.Judged> judged =
                tools.judge().judge(new ChunkJudge.Asked(route, tools.expected(), Trace.NONE), chunk, taken);
        tools.turn().write(() -> take(judged));
        chunk.clear();
    }

    private void take(List<ChunkJudge.Judged> judged) {
        Map<Integer, String> labels = new HashMap<>();
        judged.forEach(one -> labels.put(one.candidate().ordinal(), one.shaped().label()));
        addNew(labels);
        List<RouteRecords.Remembered> remembered = new ArrayList<>();
        for (ChunkJudge.Judged one : judged) {
            take(one, remembered);
        }
        tools.records().remember(route.routeId(), remembered);
        writePending();
    }

    private void addNew(Map<Integer, String> labels) {
        tools.records()
                .addNew(
                        route.routeId(),
                        chunk.stream().filter(candidate -> !candidate.known()).toList(),
                        labels);
    }

    /** Rows of the first read are only noted; they are left out until something in them changes. */
    private void noteOlder() {
        addNew(Map.of());
        tools.records()
                .remember(
                        route.routeId(),
                        chunk.stream()
                                .map(one -> new RouteRecords.Remembered(
                                        one.ordinal(),
                                        one.inputFingerprint(),
                                        0,
                                        RecordState.OLDER,
                                        "Older than this route; it waits for a change"))
                                .toList());
    }

    private void take(ChunkJudge.Judged one, List<RouteRecords.Remembered> remembered) {
        Becoming becoming = one.record().becomes(route.route().spec());
        int ordinal = one.candidate().ordinal();
        adopted += becoming.adopted() ? 1 : 0;
        if (becoming.line()) {
            pending.add(one.line(++lineNumber, inputColumns));
        } else if (!becoming.newEntry()) {
            unchanged.add(ordinal);
        }
        if (becoming.bindsNow()) {
            tools.records()
                    .adopt(
                            route,
                            runId,
                            ordinal,
                            (MatchResult.Matched) one.matchResult(),
                            one.record().same());
        }
        becoming.remembered()
                .ifPresent(recordState -> remembered.add(one.remembered(
                        recordState,
                        recordState == RecordState.NONE ? "" : one.decision().reason())));
        if (becoming.newEntry()) {
            leaving++;
            pending.add(one.oldEntry(++lineNumber));
            pending.add(one.newEntry(++lineNumber));
        }
    }

    /**
     * Records that were not met: what the route says about who leaves.
     *
     * @param unread rows of the dataset that the reading did not give
     */
    void leavers(long unread) {
        judgeChunk();
        if (route.route().spec().leavers() instanceof Leavers.Stay) {
            return;
        }
        List<Integer> ordinals = new ArrayList<>();
        index.leavers(ordinal -> {
            ordinals.add(ordinal);
            if (ordinals.size() == CHUNK) {
                leave(ordinals, unread);
            }
        });
        leave(ordinals, unread);
    }

    private void leave(List<Integer> ordinals, long unread) {
        List<Line> lines = tools.leavers().judge(route, ordinals, keyless, unread);
        for (Line line : lines) {
            leaving++;
            write(line.numbered(++lineNumber));
        }
        ordinals.clear();
    }

    private void flush() {
        tools.turn().write(this::writePending);
    }

    private void writePending() {
        tools.lines().add(runId, pending);
        pending.clear();
    }

    Prepared finish(long knownBefore, long missing) {
        judgeChunk();
        flush();
        if (!doubled.isEmpty()) {
            holdDoubled();
        }
        Map<Verdict, Long> byVerdict = tools.lines().countByVerdict(runId);
        for (Verdict verdict : EnumSet.allOf(Verdict.class)) {
            byVerdict.putIfAbsent(verdict, 0L);
        }
        RunCounts counts = new RunCounts(
                read,
                leaving,
                byVerdict.get(Verdict.ADDED),
                byVerdict.get(Verdict.CHANGED),
                byVerdict.get(Verdict.REMOVED),
                byVerdict.get(Verdict.UNCHANGED) + unchanged.getLongCardinality(),
                byVerdict.get(Verdict.HELD),
                byVerdict.get(Verdict.LEFT_OUT) + leftOut.getLongCardinality());
        return new Prepared(counts, knownBefore, missing, adopted, unchanged, leftOut, List.of());
    }

    private void holdDoubled() {
        for (RoaringBitmap quiet : List.of(unchanged, leftOut)) {
            RoaringBitmap without = RoaringBitmap.and(quiet, doubled);
            Map<Integer, String> keys = tools.lines().keys(route.routeId(), without);
            without.forEach((int ordinal) -> held(
                    ordinal,
                    keys.getOrDefault(ordinal, ""),
                    Cause.of(CauseKind.DOUBLED_KEY),
                    "More than one row has the key " + keys.getOrDefault(ordinal, "")));
            quiet.andNot(doubled);
        }
        flush();
        tools.turn().write(() -> tools.lines().holdDoubled(runId, doubled));
    }
}

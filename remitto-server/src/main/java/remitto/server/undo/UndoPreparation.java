package remitto.server.undo;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.roaringbitmap.RoaringBitmap;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination.RemoteRecord;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.dataset.Row;
import remitto.core.manifest.Decision;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.MatchResult;
import remitto.core.manifest.MaySend;
import remitto.core.manifest.UndoJudge;
import remitto.core.manifest.Verdict;
import remitto.core.route.ShapedRecord;
import remitto.core.run.RunCounts;
import remitto.core.value.Value;
import remitto.server.dataset.DatasetQueries;
import remitto.server.known.MatchResults;
import remitto.server.known.RouteRecords;
import remitto.server.manifest.Line;
import remitto.server.manifest.Lines;
import remitto.server.planning.ChunkJudge;
import remitto.server.planning.Inputs;
import remitto.server.planning.LookUpFinder;
import remitto.server.route.BoundRoute;
import remitto.server.run.Prepared;
import remitto.server.run.Progress;
import remitto.server.run.Turns;

/**
 * Prepares the reverse of a manifest that was sent: old values back, additions taken away, removals added again. What
 * others changed since is left alone, and nobody is sent against their consent.
 */
@Component
public class UndoPreparation {
    private static final int CHUNK = 500;

    private final Lines lines;
    private final DatasetQueries queries;
    private final RouteRecords records;
    private final MatchResults matchResults;
    private final LookUpFinder lookUps;
    private final ChunkJudge judge;
    private final Clock clock;

    UndoPreparation(
            Lines lines,
            DatasetQueries queries,
            RouteRecords records,
            MatchResults matchResults,
            LookUpFinder lookUps,
            ChunkJudge judge,
            Clock clock) {
        this.lines = lines;
        this.queries = queries;
        this.records = records;
        this.matchResults = matchResults;
        this.lookUps = lookUps;
        this.judge = judge;
        this.clock = clock;
    }

    public Prepared prepare(Turns.Turn turn, BoundRoute route, long undone, Progress progress) {
        Map<Verdict, Long> byVerdict = new HashMap<>();
        EnumSet.allOf(Verdict.class).forEach(verdict -> byVerdict.put(verdict, 0L));
        long knownBefore = records.boundCount(route.routeId());
        int number = 0;
        int after = 0;
        while (!progress.isToStop()) {
            List<Line> sent =
                    lines.acknowledged(undone, after, CHUNK, route.described().description());
            if (sent.isEmpty()) {
                break;
            }
            List<Line> reverse = new ArrayList<>();
            for (Line line : reverse(route, sent)) {
                byVerdict.merge(line.verdict(), 1L, Long::sum);
                reverse.add(line.numbered(++number));
            }
            turn.write(() -> lines.add(turn.runId(), reverse));
            progress.add(sent.size());
            after = sent.get(sent.size() - 1).number();
        }
        RunCounts counts = new RunCounts(
                number,
                0,
                byVerdict.get(Verdict.ADDED),
                byVerdict.get(Verdict.CHANGED),
                byVerdict.get(Verdict.REMOVED),
                byVerdict.get(Verdict.UNCHANGED),
                byVerdict.get(Verdict.HELD),
                byVerdict.get(Verdict.LEFT_OUT));
        return new Prepared(counts, knownBefore, 0, 0, new RoaringBitmap(), new RoaringBitmap(), List.of());
    }

    private List<Line> reverse(BoundRoute route, List<Line> sent) {
        Map<String, Row> rows = rows(route, sent);
        Map<String, ShapedRecord> now = judge.asTheyAre(route, List.copyOf(rows.values()));
        Map<Integer, MatchResult.Matched> there = there(route, sent);
        List<Line> reverse = new ArrayList<>();
        for (Line line : sent) {
            Decision decision = UndoJudge.judge(
                    new UndoJudge.SentLine(line.verdict(), line.fields()),
                    route.described().description(),
                    Optional.ofNullable(there.get(line.number())));
            Optional<Row> row = Optional.ofNullable(rows.get(line.key()));
            Optional<String> against = writes(decision)
                    ? against(route, decision, Optional.ofNullable(now.get(line.key())))
                    : Optional.empty();
            reverse.add(
                    against.isPresent()
                            ? Line.held(0, line.ordinal(), line.key(), Cause.of(CauseKind.UNDO_CONSENT), against.get())
                                    .labelled(line.label())
                            : Line.of(decision, line.ordinal(), line.key(), line.label(), clock.instant())
                                    .after(input(route, line, row)));
        }
        return reverse;
    }

    private static boolean writes(Decision decision) {
        return decision.verdict() == Verdict.ADDED || decision.verdict() == Verdict.CHANGED;
    }

    /**
     * Why values of a person may not be written back now.
     *
     * @param now the record as it is in the dataset; absent when it is not
     */
    private static Optional<String> against(BoundRoute route, Decision decision, Optional<ShapedRecord> now) {
        return now.isPresent()
                ? MaySend.against(decision.fields(), now.get())
                : MaySend.againstAbsent(decision.fields(), route.route().spec());
    }

    /** The input that stays undone: the one that led to the line, or where that is not known, the one of now. */
    private long input(BoundRoute route, Line line, Optional<Row> row) {
        if (line.inputFingerprint() != 0 || row.isEmpty()) {
            return line.inputFingerprint();
        }
        return new Inputs(route, lookUps.of(route, lookUps.find(route, List.of(row.get()))))
                .of(row.get().cells());
    }

    private Map<String, Row> rows(BoundRoute route, List<Line> sent) {
        Map<String, Row> rows = new HashMap<>();
        queries.byKeys(
                        route.sourceId(),
                        route.dataset(),
                        sent.stream().map(Line::key).toList())
                .forEach(row -> row.key().ifPresent(key -> rows.put(key, row)));
        return rows;
    }

    private Map<Integer, MatchResult.Matched> there(BoundRoute route, List<Line> sent) {
        Instant now = clock.instant();
        Map<Integer, MatchResult.Matched> there = new HashMap<>();
        if (!route.reads()) {
            sent.stream()
                    .filter(line -> line.verdict() != Verdict.REMOVED)
                    .forEach(line -> there.put(
                            line.number(), MatchResult.Matched.of(line.remoteId(), "", line.written(), now, Map.of())));
            return there;
        }
        Map<String, RemoteRecord> byId = matchResults.byId(
                route,
                sent.stream()
                        .filter(line -> line.verdict() != Verdict.REMOVED)
                        .map(Line::remoteId)
                        .toList());
        Map<Value, RemoteRecord> byKey = byKey(route, sent);
        for (Line line : sent) {
            RemoteRecord found =
                    line.verdict() == Verdict.REMOVED ? byKey.get(oldKey(route, line)) : byId.get(line.remoteId());
            if (found != null) {
                there.put(line.number(), MatchResult.Matched.of(found.id(), "", found.fields(), now, Map.of()));
            }
        }
        return there;
    }

    private static Value oldKey(BoundRoute route, Line line) {
        String keyField = route.route().spec().match().get(0);
        return line.fields().stream()
                .filter(field -> field.field().equals(keyField))
                .map(FieldDecision::old)
                .findFirst()
                .orElse(Value.EMPTY);
    }

    private static Map<Value, RemoteRecord> byKey(BoundRoute route, List<Line> sent) {
        String keyField = route.route().spec().match().get(0);
        List<Value> values = sent.stream()
                .filter(line -> line.verdict() == Verdict.REMOVED)
                .map(line -> oldKey(route, line))
                .filter(value -> !value.isEmpty())
                .toList();
        Map<Value, RemoteRecord> found = new HashMap<>();
        if (!values.isEmpty()) {
            route.connection()
                    .finding()
                    .find(route.described().description(), keyField, values)
                    .forEach(one -> found.put(one.fields().getOrDefault(keyField, Value.EMPTY), one));
        }
        return found;
    }
}

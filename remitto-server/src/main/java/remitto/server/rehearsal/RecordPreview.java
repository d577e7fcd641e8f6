package remitto.server.rehearsal;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BinaryOperator;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Row;
import remitto.core.expectation.HeldRows;
import remitto.core.known.Fingerprint;
import remitto.core.manifest.Decision;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Judge;
import remitto.core.manifest.LookingThere;
import remitto.core.manifest.MatchResult;
import remitto.core.manifest.Verdict;
import remitto.core.route.ShapedRecord;
import remitto.core.value.Value;
import remitto.server.dataset.DatasetQueries;
import remitto.server.expectation.ReadWatches;
import remitto.server.known.MatchResults;
import remitto.server.known.RouteRecords;
import remitto.server.manifest.Step;
import remitto.server.planning.LookUpFinder;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.route.BoundRoute;
import remitto.server.route.RouteBinder;

/**
 * Runs one real row through rules that need not be saved, on the path of the bulk run, and tells each step. The
 * row and what stands in the destination are kept for half a minute, so that following while typing asks neither
 * side at every key.
 */
@Component
public class RecordPreview {
    private static final Duration KEPT = Duration.ofSeconds(30);

    private final DatasetQueries queries;
    private final ReadWatches watches;
    private final RouteRecords records;
    private final MatchResults matchResults;
    private final LookUpFinder lookUps;
    private final Cache<String, Optional<Row>> rows =
            Caffeine.newBuilder().expireAfterWrite(KEPT).maximumSize(500).build();
    private final Cache<String, HeldRows> expected =
            Caffeine.newBuilder().expireAfterWrite(KEPT).maximumSize(50).build();
    private final Cache<String, MatchResult> there =
            Caffeine.newBuilder().expireAfterWrite(KEPT).maximumSize(500).build();

    RecordPreview(
            DatasetQueries queries,
            ReadWatches watches,
            RouteRecords records,
            MatchResults matchResults,
            LookUpFinder lookUps) {
        this.queries = queries;
        this.watches = watches;
        this.records = records;
        this.matchResults = matchResults;
        this.lookUps = lookUps;
    }

    /**
     * A field of a record preview: value, outcome, and the steps to it.
     *
     * @param old absent when nothing was read; empty text when the field is empty there
     */
    public record PreviewedField(
            String field,
            List<Step> steps,
            FieldOutcome outcome,
            @Personal Optional<String> old,
            @Personal Optional<String> fresh,
            @Personal(Personal.Part.IN_TEXT) String reason) {}

    /**
     * What the rules make of one record.
     *
     * @param readAt when the values there were read; absent when they were not
     * @param row the record's cells by column
     */
    public record PreviewedRecord(
            @Personal(Personal.Part.KEY) String key,
            @Personal String label,
            Verdict verdict,
            @Personal(Personal.Part.IN_TEXT) String reason,
            String remoteId,
            Optional<Instant> readAt,
            List<PreviewedField> fields,
            @Personal Map<String, String> row) {
        /**
         * The same with cells as somebody is shown them.
         *
         * @param cell gives what is shown of a column's value
         */
        PreviewedRecord shown(BinaryOperator<String> cell) {
            Map<String, String> cells = new LinkedHashMap<>();
            row.forEach((column, value) -> cells.put(column, cell.apply(column, value)));
            return new PreviewedRecord(key, label, verdict, reason, remoteId, readAt, fields, cells);
        }
    }

    public PreviewedRecord follow(RouteBinder.Binding binding, String key) {
        BoundRoute route = binding.bound();
        Row row = row(route, key);
        Map<String, List<Step>> steps = new HashMap<>();
        ShapedRecord shaped = route.route()
                .shape(
                        key,
                        row,
                        lookUps.find(route, List.of(row)),
                        (field, step, detail, value) -> steps.computeIfAbsent(field, name -> new ArrayList<>())
                                .add(new Step(step, detail, value.display())));
        MatchResult matchResult = matchResult(route, shaped);
        Decision decision = LookingThere.expected(
                expected.get(
                                route.sourceId() + "|" + route.dataset().hashCode(),
                                name -> watches.heldRows(route.sourceId(), route.dataset()))
                        .of(row),
                shaped,
                Judge.judge(route.route().spec(), shaped, matchResult));
        return view(key, row, shaped, matchResult, decision, steps);
    }

    Row row(BoundRoute route, String key) {
        return rows.get(
                        route.sourceId() + "|" + route.dataset().hashCode() + "|" + key,
                        name -> queries.row(route.sourceId(), route.dataset(), key))
                .orElseThrow(() -> Problem.notFound("row with the key " + key + " in the dataset"));
    }

    private MatchResult matchResult(BoundRoute route, ShapedRecord shaped) {
        StringBuilder name = new StringBuilder(route.routeId() + "|" + route.destinationId() + "|"
                + route.described().description().name() + "|" + shaped.key());
        route.route().spec().match().forEach(field -> name.append('|')
                .append(shaped.value(field).display()));
        return there.get(name.toString(), missing -> look(route, shaped));
    }

    private MatchResult look(BoundRoute route, ShapedRecord shaped) {
        long[] hash = new Fingerprint().key(shaped.key());
        Optional<RouteRecords.Bound> bound = records.ordinal(route.routeId(), hash[0], hash[1])
                .flatMap(ordinal -> Optional.ofNullable(
                        records.bound(route, List.of(ordinal)).get(ordinal)));
        return matchResults
                .find(route, List.of(new MatchResults.Wanted(shaped, bound)), new HashMap<>())
                .get(0);
    }

    void forget() {
        there.invalidateAll();
        rows.invalidateAll();
    }

    private static PreviewedRecord view(
            String key,
            Row row,
            ShapedRecord shaped,
            MatchResult matchResult,
            Decision decision,
            Map<String, List<Step>> steps) {
        Map<String, FieldDecision> decided = new HashMap<>();
        decision.fields().forEach(field -> decided.put(field.field(), field));
        FieldOutcome undecided =
                switch (decision.verdict()) {
                    case UNCHANGED -> FieldOutcome.SAME;
                    case LEFT_OUT -> FieldOutcome.KEPT;
                    default -> FieldOutcome.HELD;
                };
        List<PreviewedField> fields = new ArrayList<>();
        shaped.fields().forEach(field -> {
            String name = field.field().name();
            FieldDecision outcome = decided.getOrDefault(
                    name, new FieldDecision(name, undecided, Value.MISSING, shaped.value(name), ""));
            fields.add(new PreviewedField(
                    name,
                    steps.getOrDefault(name, List.of()),
                    outcome.outcome(),
                    shown(outcome.old()),
                    shown(outcome.fresh()),
                    outcome.reason()));
        });
        Map<String, String> cells = new LinkedHashMap<>();
        row.columns()
                .list()
                .forEach(column ->
                        cells.put(column.name(), row.cell(column.name()).orElse("")));
        Optional<Instant> readAt = matchResult instanceof MatchResult.Matched found
                ? Optional.of(found.readAt())
                : matchResult instanceof MatchResult.Unmatched none ? Optional.of(none.readAt()) : Optional.empty();
        return new PreviewedRecord(
                key,
                shaped.label(),
                decision.verdict(),
                decision.reason(),
                decision.remoteId().orElse(""),
                readAt,
                fields,
                cells);
    }

    private static Optional<String> shown(Value value) {
        return value instanceof Value.Missing ? Optional.empty() : Optional.of(value.display());
    }
}

package remitto.server.rehearsal;

import java.security.Principal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.destination.Destination;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.Row;
import remitto.core.manifest.LineState;
import remitto.core.route.RouteSpec;
import remitto.core.value.Value;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.DatasetQueries;
import remitto.server.dataset.Datasets;
import remitto.server.delivery.Sender;
import remitto.server.journal.Journal;
import remitto.server.journal.Looks;
import remitto.server.manifest.LineView;
import remitto.server.manifest.LineViews;
import remitto.server.masking.PersonalValues;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.route.BoundRoute;
import remitto.server.route.RouteBinder;
import remitto.server.route.Routes;
import remitto.server.run.ServiceRoutes;
import remitto.server.run.life.RunKeeper;

/** Following one record through unsaved rules, and trying one for real. */
@RestController
@RequestMapping("/api")
class WorkbenchController {
    private static final int FOUND = 20;

    private final PersonalValues values;
    private final Looks looks;
    private final RecordPreview recordPreview;
    private final RouteBinder binder;
    private final Routes routes;
    private final Datasets datasets;
    private final DatasetQueries queries;
    private final ServiceRoutes serviceRoutes;
    private final RunKeeper keeper;
    private final LineViews lines;
    private final TestRecords testRecords;
    private final Journal journal;

    WorkbenchController(
            PersonalValues values,
            Looks looks,
            RecordPreview recordPreview,
            RouteBinder binder,
            Routes routes,
            Datasets datasets,
            DatasetQueries queries,
            ServiceRoutes serviceRoutes,
            RunKeeper keeper,
            LineViews lines,
            TestRecords testRecords,
            Journal journal) {
        this.values = values;
        this.looks = looks;
        this.recordPreview = recordPreview;
        this.binder = binder;
        this.routes = routes;
        this.datasets = datasets;
        this.queries = queries;
        this.serviceRoutes = serviceRoutes;
        this.keeper = keeper;
        this.lines = lines;
        this.testRecords = testRecords;
        this.journal = journal;
    }

    /**
     * Unsaved rules and a record that they are to be shown with.
     *
     * @param routeId 0 for a route that was never saved
     */
    record RecordPreviewRequest(long routeId, RouteBinder.RouteEnds ends, RouteSpec spec, String key) {}

    /** A row of a dataset that was found. */
    record FoundRecord(
            @Personal(Personal.Part.KEY) String key,
            @Personal String text) {}

    /**
     * One record that is to be sent as a trial.
     *
     * @param made a made-up record by column; absent to try the real row of the key
     */
    record Trial(String key, Optional<Map<String, String>> made) {}

    /**
     * What was sent as a trial, and what came of it.
     *
     * @param readBack the record as the destination holds it afterwards
     */
    record TrialResult(
            long runId,
            LineView line,
            @Personal Optional<Destination.Exchange> exchange,
            String stopped,
            @Personal Map<String, String> readBack) {}

    /** What became of test records that were to be removed. */
    record CleanedUp(int records) {}

    /** What unsaved rules make of one record: every step of every rule, and what the destination holds now. Sends nothing. */
    @PostMapping("/routes/record-preview")
    RecordPreview.PreviewedRecord previewRecord(@RequestBody RecordPreviewRequest request) {
        int version = binder.usableDatasetVersion(request.ends().datasetId());
        looks.at(
                "previewed record",
                new Journal.Subject(
                        "dataset",
                        request.ends().datasetId(),
                        datasets.get(request.ends().datasetId()).name()));
        Set<String> sensitive = sensitive(datasets.version(request.ends().datasetId(), version));
        return recordPreview
                .follow(binder.bind(request.routeId(), "", request.ends(), version, request.spec()), request.key())
                .shown((column, value) -> sensitive.contains(column) ? values.sensitive(value) : value);
    }

    private static Set<String> sensitive(DatasetDefinition definition) {
        return definition.columns().stream()
                .filter(column -> column.role() == ColumnRole.SENSITIVE)
                .map(Column::name)
                .collect(Collectors.toSet());
    }

    /**
     * Rows of a dataset, found by key, name or another text.
     *
     * @param find text to find; blank for the first ones
     */
    @GetMapping("/datasets/{id}/records")
    List<FoundRecord> findRecords(@PathVariable long id, @RequestParam(defaultValue = "") String find) {
        Datasets.Dataset dataset = datasets.get(id);
        DatasetDefinition definition = datasets.version(id, binder.usableDatasetVersion(id));
        List<FoundRecord> found = new ArrayList<>();
        for (Row row : queries.search(dataset.sourceId(), definition, find, FOUND)) {
            row.key().ifPresent(key -> found.add(new FoundRecord(key, text(row))));
        }
        return found;
    }

    private static String text(Row row) {
        List<String> cells = new ArrayList<>();
        row.columns().list().stream()
                .filter(column -> !row.columns().keys().contains(column.name()))
                .filter(column -> column.role() != ColumnRole.SENSITIVE)
                .limit(3)
                .forEach(column -> row.cell(column.name()).ifPresent(cells::add));
        return String.join(" ", cells);
    }

    /** Sends one record, by the version in service. */
    @PostMapping("/routes/{id}/try")
    TrialResult tryOne(@PathVariable long id, @RequestBody Trial trial, Principal who) {
        Routes.Route stored = routes.get(id);
        BoundRoute route = serviceRoutes.toRun(id);
        recordPreview.forget();
        Row row = trial.made()
                .map(cells -> Row.of(route.columns(), cells))
                .orElseGet(() -> recordPreview.row(route, trial.key()));
        String key = row.key().orElseThrow(() -> Problem.invalid("The record needs a value in every key column."));
        if (trial.made().isPresent()
                && queries.row(route.sourceId(), route.dataset(), key).isPresent()) {
            throw Problem.invalid(
                    "The dataset holds a real record with the key " + key + "; give the test record another.");
        }
        AtomicLong runId = new AtomicLong();
        Sender.Result result = keeper.tryOne(route, key, row, who.getName(), runId::set);
        LineView line = lines.window(runId.get(), new LineViews.Filter("", "", "", "", ""), 0, 1).lines().stream()
                .findFirst()
                .orElseGet(() -> unchanged(key));
        if (trial.made().isPresent() && line.state() == LineState.ACKNOWLEDGED) {
            testRecords.remember(id, route.destinationId(), stored.object(), line.remoteId(), key, who.getName());
        }
        journal.write(
                who.getName(),
                "tried one record",
                new Journal.Subject("route", id, stored.name()),
                line.verdict().name().toLowerCase(java.util.Locale.ROOT));
        recordPreview.forget();
        return new TrialResult(runId.get(), line, result.lastExchange(), result.message(), readBack(route, line));
    }

    private static LineView unchanged(String key) {
        return new LineView(
                0,
                key,
                "",
                remitto.core.manifest.Verdict.UNCHANGED,
                LineState.NONE,
                "",
                "",
                "",
                List.of(),
                Optional.empty(),
                Optional.empty(),
                "");
    }

    private static Map<String, String> readBack(BoundRoute route, LineView line) {
        Map<String, String> there = new LinkedHashMap<>();
        if (!line.remoteId().isEmpty() && route.reads()) {
            route.connection()
                    .finding()
                    .find(route.described().description(), Destination.ID, List.of(new Value.Text(line.remoteId())))
                    .forEach(record -> route.described().description().fields().forEach(field -> {
                        Value value = record.fields().getOrDefault(field.name(), Value.EMPTY);
                        if (!value.isEmpty()) {
                            there.put(field.name(), value.display());
                        }
                    }));
        }
        return there;
    }

    /** Test records that were sent and are still in destinations. */
    @GetMapping("/test-records")
    List<TestRecords.TestRecord> testRecords() {
        return testRecords.present();
    }

    /** Removes test records from their destinations. */
    @DeleteMapping("/test-records")
    CleanedUp cleanUpTestRecords(Principal who) {
        int removed = testRecords.cleanUp();
        journal.write(
                who.getName(),
                "removed test records",
                new Journal.Subject("destination", 0, "all"),
                removed + " records");
        return new CleanedUp(removed);
    }
}

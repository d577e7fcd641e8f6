package remitto.server.dataset;

import java.security.Principal;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.source.Preview;
import remitto.core.dataset.ColumnRole;
import remitto.server.journal.Journal;
import remitto.server.masking.PersonalValues;
import remitto.server.platform.VersionNote;
import remitto.server.platform.VersionRequest;
import remitto.server.source.OwnSql;

@RestController
@RequestMapping("/api/datasets")
class DatasetController {
    private final PersonalValues values;
    private final OwnSql ownSql;
    private final Datasets datasets;
    private final DatasetQueries queries;
    private final DatasetKeeping keeping;

    DatasetController(
            PersonalValues values, OwnSql ownSql, Datasets datasets, DatasetQueries queries, DatasetKeeping keeping) {
        this.values = values;
        this.ownSql = ownSql;
        this.datasets = datasets;
        this.queries = queries;
        this.keeping = keeping;
    }

    /**
     * A version of a dataset to be saved.
     *
     * @param note what changed, and why; absent for none
     */
    record DatasetDraft(
            String name,
            String description,
            long sourceId,
            int basedOn,
            Optional<String> note,
            DatasetDefinition definition) {}

    private static DatasetKeeping.Wanted wanted(DatasetDraft draft) {
        return new DatasetKeeping.Wanted(draft.name(), draft.description(), draft.sourceId(), draft.definition());
    }

    /** A definition to be run for a preview. */
    record QueryDraft(long sourceId, DatasetDefinition.Query query) {}

    /** A definition whose keys are to be checked. */
    record KeyDraft(long sourceId, DatasetDefinition.Query query, List<String> keys) {}

    /**
     * The preview of a definition.
     *
     * @param sql the text that was run, also when it was put together from a table and a filter
     * @param roles of columns whose meaning is known already, by name
     */
    record PreviewResult(String sql, Preview preview, Map<String, ColumnRole> roles) {}

    /** All datasets with their counts and the routes that use them. */
    @GetMapping
    List<Datasets.Dataset> datasets() {
        return datasets.all();
    }

    /** A dataset with its version in service and its latest one. */
    @GetMapping("/{id}")
    Datasets.Dataset dataset(@PathVariable long id) {
        return datasets.get(id);
    }

    /** Creates a dataset with a first version, which is not in service. */
    @PostMapping
    Datasets.Dataset addDataset(@RequestBody DatasetDraft draft, Principal who) {
        long id = keeping.add(wanted(draft), who.getName());
        return datasets.get(id);
    }

    /** Saves a version of a dataset. 409 when somebody saved another since the one it is based on. */
    @PostMapping("/{id}/versions")
    Datasets.Dataset saveDataset(@PathVariable long id, @RequestBody DatasetDraft draft, Principal who) {
        keeping.save(
                id,
                draft.basedOn(),
                wanted(draft),
                new Datasets.Saving(who.getName(), draft.note().orElse("")));
        return datasets.get(id);
    }

    /** The versions of a dataset, the newest first. */
    @GetMapping("/{id}/versions")
    List<VersionNote> datasetVersions(@PathVariable long id) {
        return datasets.versions(id);
    }

    /** A version of a dataset. */
    @GetMapping("/{id}/versions/{number}")
    DatasetDefinition datasetVersion(@PathVariable long id, @PathVariable int number) {
        return datasets.version(id, number);
    }

    /** What a version says differently than another. */
    @GetMapping("/{id}/versions/{number}/differences/{other}")
    DatasetDifferences.Differing datasetDifferences(
            @PathVariable long id, @PathVariable int number, @PathVariable int other) {
        return DatasetDifferences.between(datasets.version(id, number), datasets.version(id, other));
    }

    /** What an unsaved definition says differently than the latest version. */
    @PostMapping("/{id}/differences")
    DatasetDifferences.Differing unsavedDatasetDifferences(
            @PathVariable long id, @RequestBody DatasetDefinition unsaved) {
        return DatasetDifferences.between(datasets.get(id).definition(), unsaved);
    }

    /** Routes that putting another version in service touches. */
    @GetMapping("/{id}/routes")
    List<String> routesTouched(@PathVariable long id) {
        return datasets.routes(id);
    }

    /** Puts a version of a dataset in service. Routes read it from their next run on. */
    @PostMapping("/{id}/in-service")
    Datasets.Dataset putDatasetInService(@PathVariable long id, @RequestBody VersionRequest wanted, Principal who) {
        keeping.putInService(id, wanted.version(), who.getName());
        return datasets.get(id);
    }

    /** Runs a definition read-only and gives its columns and first rows. */
    @PostMapping("/preview")
    PreviewResult preview(@RequestBody QueryDraft draft) {
        String sql = draft.query().text();
        ownSql.run(sql, new Journal.Subject("source", draft.sourceId(), "preview"));
        return new PreviewResult(
                sql,
                shown(
                        draft.sourceId(),
                        queries.preview(draft.sourceId(), draft.query().asked())),
                keeping.roles(draft.sourceId()));
    }

    /** Columns that any dataset of the source calls sensitive are masked by their name, whatever the text makes of them. */
    private Preview shown(long sourceId, Preview preview) {
        Set<String> sensitive = new HashSet<>(datasets.sensitiveColumns(sourceId));
        keeping.roles(sourceId).forEach((name, role) -> {
            if (role == ColumnRole.SENSITIVE) {
                sensitive.add(name);
            }
        });
        return preview.shown((column, cell) -> sensitive.contains(column) ? values.sensitive(cell) : cell);
    }

    /** Counts empty and duplicate keys in all rows of a definition. */
    @PostMapping("/check-key")
    DatasetQueries.KeyCheck checkKey(@RequestBody KeyDraft draft) {
        String sql = draft.query().text();
        ownSql.run(sql, new Journal.Subject("source", draft.sourceId(), "check of keys"));
        return queries.checkKey(draft.sourceId(), draft.query().asked(), draft.keys());
    }

    /** Counts the rows of a dataset and finds its newest one. */
    @PostMapping("/{id}/freshness")
    Datasets.Dataset freshness(@PathVariable long id) {
        Datasets.Dataset dataset = datasets.get(id);
        datasets.seen(id, queries.freshness(dataset.sourceId(), dataset.definition()));
        return datasets.get(id);
    }
}

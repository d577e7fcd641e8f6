package remitto.server.dataset;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Column;
import remitto.core.expectation.Expectation;
import remitto.server.archive.Archivable;
import remitto.server.archive.Archive;
import remitto.server.definition.DefinitionKind;
import remitto.server.definition.DefinitionPlan;
import remitto.server.platform.Problem;
import remitto.server.source.Sources;

/** Datasets as files. */
@Component
class DatasetFiles implements DefinitionKind<DatasetFiles.DatasetFile> {
    private final Datasets datasets;
    private final MadeDatasets made;
    private final DatasetKeeping keeping;
    private final List<DatasetMaker> makers;
    private final Sources sources;
    private final Archive archive;

    DatasetFiles(
            Datasets datasets,
            MadeDatasets made,
            DatasetKeeping keeping,
            List<DatasetMaker> makers,
            Sources sources,
            Archive archive) {
        this.datasets = datasets;
        this.made = made;
        this.keeping = keeping;
        this.makers = List.copyOf(makers);
        this.sources = sources;
        this.archive = archive;
    }

    /**
     * A dataset.
     *
     * @param source and {@code query} where it is read from; absent for one that is made of something
     * @param madeOf absent for one with a query of its own
     */
    record DatasetFile(
            String name,
            String description,
            Optional<Long> source,
            Optional<DatasetDefinition.Query> query,
            Optional<MadeOfFile> madeOf,
            List<Column> columns,
            List<Expectation> expectations) {
        DatasetFile {
            columns = List.copyOf(columns);
            expectations = List.copyOf(expectations);
        }
    }

    /** What a dataset is made of: one of the two. */
    record MadeOfFile(Optional<Long> audience, Optional<Long> eventSet) {}

    @Override
    public Form<DatasetFile> form() {
        return new Form<>("dataset", "datasets", DatasetFile.class, 40, true);
    }

    @Override
    public List<Kept<DatasetFile>> all() {
        Map<Long, MadeDatasets.Made> ofWhat = made.all();
        return datasets.all().stream()
                .map(one -> {
                    Optional<MadeDatasets.Made> of = Optional.ofNullable(ofWhat.get(one.id()));
                    return new Kept<>(
                            Long.toString(one.id()),
                            one.name(),
                            file(one, one.definition(), of),
                            one.liveVersion().map(live -> file(one, datasets.version(one.id(), live), of)));
                })
                .toList();
    }

    private static DatasetFile file(
            Datasets.Dataset dataset, DatasetDefinition definition, Optional<MadeDatasets.Made> of) {
        return new DatasetFile(
                dataset.name(),
                dataset.description(),
                of.isPresent() ? Optional.empty() : Optional.of(dataset.sourceId()),
                of.isPresent() ? Optional.empty() : Optional.of(definition.query()),
                of.map(one -> one.of() == MadeDatasets.MadeOf.AUDIENCE
                        ? new MadeOfFile(Optional.of(one.id()), Optional.empty())
                        : new MadeOfFile(Optional.empty(), Optional.of(one.id()))),
                definition.columns(),
                definition.expectations());
    }

    @Override
    public String add(Change<DatasetFile> change) {
        DatasetFile file = change.content();
        if (file.madeOf().isEmpty()) {
            return Long.toString(keeping.add(wanted(file, source(file), query(file)), change.who()));
        }
        MadeDatasets.Made of = made(file.madeOf().get());
        if (made.find(of.of(), of.id()).isPresent()) {
            throw Problem.conflict("Another dataset is made of this already; there is one of each.");
        }
        long id = makers.stream()
                .filter(one -> one.of() == of.of())
                .findFirst()
                .orElseThrow()
                .make(of.id(), file.columns(), change.who());
        Datasets.Dataset fresh = datasets.get(id);
        if (!fresh.name().equals(file.name())
                || !fresh.description().equals(file.description())
                || !file.expectations().isEmpty()) {
            save(id, change);
        }
        return Long.toString(id);
    }

    @Override
    public void change(String id, Change<DatasetFile> change) {
        save(Long.parseLong(id), change);
    }

    private void save(long id, Change<DatasetFile> change) {
        DatasetFile file = change.content();
        Datasets.Dataset now = datasets.get(id);
        Optional<MadeDatasets.Made> of = Optional.ofNullable(made.all().get(id));
        if (!of.equals(file.madeOf().map(DatasetFiles::made))) {
            throw Problem.conflict("What a dataset is made of stays; make another dataset.");
        }
        if (of.isEmpty() && now.sourceId() != source(file)) {
            throw Problem.conflict("A dataset stays with its source; make another dataset.");
        }
        DatasetDefinition.Query query = of.isPresent() ? now.definition().query() : query(file);
        keeping.save(
                id,
                now.latestVersion(),
                wanted(file, now.sourceId(), query),
                new Datasets.Saving(change.who(), change.note()));
    }

    private static DatasetKeeping.Wanted wanted(DatasetFile file, long source, DatasetDefinition.Query query) {
        return new DatasetKeeping.Wanted(
                file.name(),
                file.description(),
                source,
                new DatasetDefinition(query, file.columns(), file.expectations()));
    }

    private static long source(DatasetFile file) {
        return file.source()
                .orElseThrow(() -> Problem.invalid("Say which source it is read from, or what it is made of."));
    }

    private static DatasetDefinition.Query query(DatasetFile file) {
        return file.query().orElseThrow(() -> Problem.invalid("Say which query it is, or what it is made of."));
    }

    private static MadeDatasets.Made made(MadeOfFile file) {
        if (file.audience().isPresent() == file.eventSet().isPresent()) {
            throw Problem.invalid("A dataset is made of an audience or of a set of events.");
        }
        return file.audience()
                .map(id -> new MadeDatasets.Made(MadeDatasets.MadeOf.AUDIENCE, id))
                .orElseGet(() -> new MadeDatasets.Made(
                        MadeDatasets.MadeOf.EVENTS, file.eventSet().orElseThrow()));
    }

    @Override
    public Optional<DefinitionPlan.EffectQuestion> effect(String id, DatasetFile content) {
        return content.query()
                .map(query -> new DefinitionPlan.EffectQuestion(
                        "/api/datasets/" + id + "/what-if",
                        new DatasetDefinition(query, content.columns(), content.expectations())));
    }

    @Override
    public void putInService(String id, Change<DatasetFile> change) {
        Datasets.Dataset now = datasets.get(Long.parseLong(id));
        if (!now.liveVersion().equals(Optional.of(now.latestVersion()))) {
            // Our own views are made again in the transaction that this is a part of, and would be waited for in vain.
            if (sources.get(now.sourceId()).isOwn()) {
                keeping.putInServiceUnasked(now.id(), now.latestVersion(), change.who());
            } else {
                keeping.putInService(now.id(), now.latestVersion(), change.who());
            }
        }
    }

    @Override
    public void remove(String id, String who) {
        archive.archive(Archivable.DATASET, id, who);
    }
}

package remitto.server.lineage;

import io.openlineage.client.OpenLineage;
import java.time.ZoneOffset;
import java.util.List;
import org.springframework.stereotype.Component;
import remitto.server.dataset.Datasets;
import remitto.server.people.EntityType;
import remitto.server.people.resolution.PeopleRuns;
import remitto.server.people.source.PeopleSources;

/** Matching runs as events: from which datasets people and companies are made, and which columns each attribute is kept from. */
@Component
class MatchingLineage {
    private final LineageSettings settings;
    private final PeopleRuns runs;
    private final PeopleSources sources;
    private final Datasets datasets;
    private final RouteLineage routes;
    private final LineageWords words = new LineageWords();

    MatchingLineage(
            LineageSettings settings, PeopleRuns runs, PeopleSources sources, Datasets datasets, RouteLineage routes) {
        this.settings = settings;
        this.runs = runs;
        this.sources = sources;
        this.datasets = datasets;
        this.routes = routes;
    }

    OpenLineage.RunEvent event(LineageLedger.Untold untold) {
        PeopleRuns.PeopleRun run = runs.get(untold.subject());
        boolean ended = untold.phase() == LineageLedger.Phase.END;
        String what = run.entityType() == EntityType.PERSON ? "person" : "company";
        OpenLineage standard = words.standard();
        List<PeopleSources.PeopleSource> read = sources.all(run.entityType());
        OpenLineage.ColumnLineageDatasetFacetFieldsBuilder fields =
                standard.newColumnLineageDatasetFacetFieldsBuilder();
        sources.attributes(run.entityType())
                .forEach(attribute -> fields.put(
                        attribute.name(),
                        standard.newColumnLineageDatasetFacetFieldsAdditionalBuilder()
                                .inputFields(from(read, attribute.name()))
                                .build()));
        return standard.newRunEventBuilder()
                .eventTime(untold.at().atZone(ZoneOffset.UTC))
                .eventType(type(run, ended))
                .run(standard.newRunBuilder()
                        .runId(LineageWords.id(settings.namespace(), LineageLedger.What.MATCHING, run.id()))
                        .facets(words.run(ended ? run.problem() : "").build())
                        .build())
                .job(standard.newJobBuilder()
                        .namespace(settings.namespace())
                        .name("matching." + what)
                        .facets(words.job("MATCHING").build())
                        .build())
                .inputs(read.stream()
                        .map(source -> named(source))
                        .map(named -> standard.newInputDatasetBuilder()
                                .namespace(named.namespace())
                                .name(named.name())
                                .build())
                        .toList())
                .outputs(List.of(standard.newOutputDatasetBuilder()
                        .namespace("remitto://" + settings.namespace())
                        .name("people." + what)
                        .facets(standard.newDatasetFacetsBuilder()
                                .columnLineage(standard.newColumnLineageDatasetFacetBuilder()
                                        .fields(fields.build())
                                        .build())
                                .build())
                        .build()))
                .build();
    }

    private static OpenLineage.RunEvent.EventType type(PeopleRuns.PeopleRun run, boolean ended) {
        if (!ended) {
            return OpenLineage.RunEvent.EventType.START;
        }
        if (!run.problem().isBlank()) {
            return OpenLineage.RunEvent.EventType.FAIL;
        }
        return run.stopped().isPresent()
                ? OpenLineage.RunEvent.EventType.ABORT
                : OpenLineage.RunEvent.EventType.COMPLETE;
    }

    private List<OpenLineage.InputField> from(List<PeopleSources.PeopleSource> read, String attribute) {
        return read.stream()
                .flatMap(source -> source.columns().stream()
                        .filter(tied -> tied.attribute().equals(attribute))
                        .map(tied -> words.from(named(source), tied.column(), true, false, false)))
                .toList();
    }

    private LineageWords.Named named(PeopleSources.PeopleSource source) {
        Datasets.Dataset dataset = datasets.get(source.datasetId());
        return routes.named(dataset, dataset.definition());
    }
}

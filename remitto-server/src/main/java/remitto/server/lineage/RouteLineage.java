package remitto.server.lineage;

import io.openlineage.client.OpenLineage;
import java.net.URI;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Columns;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.route.CompiledRoute;
import remitto.core.route.RouteCompiler;
import remitto.core.route.RouteSpec;
import remitto.core.route.Surroundings;
import remitto.core.run.RunState;
import remitto.core.shaper.KeyedHash;
import remitto.core.shaper.Mask;
import remitto.core.shaper.Sha256;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.destination.Destinations;
import remitto.server.route.Routes;
import remitto.server.run.Run;
import remitto.server.run.Runs;
import remitto.server.source.DatabaseAddress;
import remitto.server.source.Sources;

/** Runs of routes as events: from which columns of which dataset each field of an object is made. No tool is asked for it. */
@Component
class RouteLineage {
    private final LineageSettings settings;
    private final Runs runs;
    private final Routes routes;
    private final Datasets datasets;
    private final Sources sources;
    private final Destinations destinations;
    private final Surroundings surroundings;
    private final LineageWords words = new LineageWords();

    RouteLineage(
            LineageSettings settings,
            Runs runs,
            Routes routes,
            Datasets datasets,
            Sources sources,
            Destinations destinations,
            Surroundings surroundings) {
        this.settings = settings;
        this.runs = runs;
        this.routes = routes;
        this.datasets = datasets;
        this.sources = sources;
        this.destinations = destinations;
        this.surroundings = surroundings;
    }

    OpenLineage.RunEvent event(LineageLedger.Untold untold) {
        Run run = runs.get(untold.subject());
        boolean ended = untold.phase() == LineageLedger.Phase.END;
        Routes.Route route = routes.get(run.routeId());
        RouteSpec spec = routes.version(run.routeId(), run.routeVersion());
        Datasets.Dataset dataset = datasets.get(route.datasetId());
        DatasetDefinition definition = datasets.version(route.datasetId(), run.datasetVersion());
        Optional<ObjectDescription> object =
                destinations.description(run.destinationId(), run.object()).map(Destinations.Described::description);
        OpenLineage standard = words.standard();
        LineageWords.Named read = named(dataset, definition);
        List<OpenLineage.InputDataset> inputs = new ArrayList<>();
        inputs.add(standard.newInputDatasetBuilder()
                .namespace(read.namespace())
                .name(read.name())
                .facets(words.columns(definition.columns()).build())
                .inputFacets(
                        ended
                                ? rowsRead(run.counts().read())
                                : standard.newInputDatasetInputFacetsBuilder().build())
                .build());
        lookedUp(spec)
                .forEach(one -> inputs.add(standard.newInputDatasetBuilder()
                        .namespace(one.namespace())
                        .name(one.name())
                        .build()));
        return standard.newRunEventBuilder()
                .eventTime(untold.at().atZone(ZoneOffset.UTC))
                .eventType(type(run.state(), ended))
                .run(standard.newRunBuilder()
                        .runId(LineageWords.id(settings.namespace(), LineageLedger.What.RUN, run.id()))
                        .facets(words.run(ended && run.state() == RunState.FAILED ? run.message() : "")
                                .build())
                        .build())
                .job(standard.newJobBuilder()
                        .namespace(settings.namespace())
                        .name("route." + route.name())
                        .facets(words.job("ROUTE")
                                .sql(standard.newSQLJobFacetBuilder()
                                        .query(definition.query().text())
                                        .dialect("postgresql")
                                        .build())
                                .build())
                        .build())
                .inputs(inputs)
                .outputs(List.of(output(run, spec, read, definition, object, ended)))
                .build();
    }

    private static OpenLineage.RunEvent.EventType type(RunState state, boolean ended) {
        if (!ended) {
            return OpenLineage.RunEvent.EventType.START;
        }
        return switch (state) {
            case SENT -> OpenLineage.RunEvent.EventType.COMPLETE;
            case FAILED -> OpenLineage.RunEvent.EventType.FAIL;
            default -> OpenLineage.RunEvent.EventType.ABORT;
        };
    }

    private OpenLineage.InputDatasetInputFacets rowsRead(long rows) {
        return words.standard()
                .newInputDatasetInputFacetsBuilder()
                .inputStatistics(words.standard()
                        .newInputStatisticsInputDatasetFacetBuilder()
                        .rowCount(rows)
                        .build())
                .build();
    }

    private OpenLineage.OutputDataset output(
            Run run,
            RouteSpec spec,
            LineageWords.Named read,
            DatasetDefinition definition,
            Optional<ObjectDescription> object,
            boolean ended) {
        OpenLineage standard = words.standard();
        Map<String, String> fields = new LinkedHashMap<>();
        object.ifPresent(known -> known.fields().stream()
                .filter(field ->
                        spec.rules().stream().anyMatch(rule -> rule.field().equals(field.name())))
                .forEach(field -> fields.put(field.name(), field.kind().name().toLowerCase(Locale.ROOT))));
        OpenLineage.DatasetFacetsBuilder facets = words.fields(fields);
        object.ifPresent(known -> facets.columnLineage(columns(spec, read, definition, known)));
        OpenLineage.OutputDatasetOutputFacetsBuilder sums = standard.newOutputDatasetOutputFacetsBuilder();
        if (ended && run.state() == RunState.SENT) {
            sums.outputStatistics(standard.newOutputStatisticsOutputDatasetFacetBuilder()
                    .rowCount(run.counts().added()
                            + run.counts().changed()
                            + run.counts().removed())
                    .build());
        }
        LineageWords.Named there = there(run);
        return standard.newOutputDatasetBuilder()
                .namespace(there.namespace())
                .name(there.name())
                .facets(facets.build())
                .outputFacets(sums.build())
                .build();
    }

    /** Where an object is; a destination that has no address is known by its name here. A table is named as tables of sources are. */
    private LineageWords.Named there(Run run) {
        Destinations.DestinationView view = destinations.get(run.destinationId());
        Optional<URI> address = address(view.settings().getOrDefault("base_address", ""));
        if (address.isEmpty()) {
            return new LineageWords.Named("remitto://" + settings.namespace() + "/" + slug(view.name()), run.object());
        }
        URI uri = address.get();
        String at = uri.getHost() + (uri.getPort() < 0 ? "" : ":" + uri.getPort());
        return uri.getScheme().equals("postgresql")
                ? new LineageWords.Named(
                        "postgres://" + at,
                        uri.getPath().replaceFirst("^/", "") + "."
                                + view.settings().getOrDefault("schema", "public") + "." + run.object())
                : new LineageWords.Named(uri.getScheme() + "://" + at, run.object());
    }

    private static Optional<URI> address(String text) {
        try {
            return Optional.of(URI.create(text)).filter(uri -> uri.getHost() != null);
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private OpenLineage.ColumnLineageDatasetFacet columns(
            RouteSpec spec, LineageWords.Named read, DatasetDefinition definition, ObjectDescription object) {
        OpenLineage standard = words.standard();
        CompiledRoute compiled = RouteCompiler.compile(spec, new Columns(definition.columns()), object, surroundings)
                .route();
        OpenLineage.ColumnLineageDatasetFacetFieldsBuilder fields =
                standard.newColumnLineageDatasetFacetFieldsBuilder();
        for (FieldRule rule : spec.rules()) {
            List<OpenLineage.InputField> from = new ArrayList<>();
            boolean masked = rule.shapers().stream()
                    .anyMatch(one -> one instanceof Sha256 || one instanceof KeyedHash || one instanceof Mask);
            boolean asItIs = rule.receives() instanceof Receives.FromColumn
                    && rule.shapers().isEmpty();
            Set<String> values = compiled.valueColumnsOf(rule.field());
            new TreeSet<>(compiled.columnsOf(rule.field()))
                    .forEach(column -> from.add(words.from(read, column, values.contains(column), asItIs, masked)));
            if (rule.receives() instanceof Receives.FromDataset found
                    && !found.where().give().isBlank()) {
                from.add(words.from(last(found.where()), found.where().give(), true, false, masked));
            }
            if (!from.isEmpty()) {
                fields.put(
                        rule.field(),
                        standard.newColumnLineageDatasetFacetFieldsAdditionalBuilder()
                                .inputFields(from)
                                .build());
            }
        }
        return standard.newColumnLineageDatasetFacetBuilder()
                .fields(fields.build())
                .build();
    }

    private List<LineageWords.Named> lookedUp(RouteSpec spec) {
        return spec.rules().stream()
                .map(FieldRule::receives)
                .filter(Receives.FromDataset.class::isInstance)
                .flatMap(found -> ((Receives.FromDataset) found).where().datasets().stream())
                .distinct()
                .map(this::named)
                .toList();
    }

    private LineageWords.Named last(DatasetLookUp where) {
        List<Long> all = where.datasets();
        return named(all.get(all.size() - 1));
    }

    private LineageWords.Named named(long dataset) {
        Datasets.Dataset one = datasets.get(dataset);
        return named(one, one.definition());
    }

    /** A table by its name in the database; a query, which has none there, by what it is called here. */
    LineageWords.Named named(Datasets.Dataset dataset, DatasetDefinition definition) {
        DatabaseAddress address = sources.readFrom(dataset.sourceId());
        return definition.query() instanceof DatasetDefinition.Query.TableQuery table
                ? LineageWords.inDatabase(address, table.schema() + "." + table.table())
                : LineageWords.inDatabase(address, "remitto." + slug(dataset.name()));
    }

    static String slug(String name) {
        return name.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{N}]+", "_");
    }
}

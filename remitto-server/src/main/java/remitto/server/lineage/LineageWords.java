package remitto.server.lineage;

import io.openlineage.client.OpenLineage;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import remitto.core.dataset.Column;
import remitto.server.source.DatabaseAddress;

/** Parts of events, named as the standard's rules for names say. */
final class LineageWords {
    /** Says who made an event. */
    static final URI PRODUCER = URI.create("https://remitto.example/lineage/1");

    private final OpenLineage standard = new OpenLineage(PRODUCER);

    OpenLineage standard() {
        return standard;
    }

    /** A dataset of a tool or a database: where it is, and what it is called there. */
    record Named(String namespace, String name) {}

    /** The same run has the same id in every event, whoever tells it. */
    static UUID id(String namespace, LineageLedger.What what, long subject) {
        return UUID.nameUUIDFromBytes((namespace + "/" + what + "/" + subject).getBytes(StandardCharsets.UTF_8));
    }

    /**
     * {@code postgres://host:port} and {@code database.name}, as the standard names tables of PostgreSQL; {@code mysql://host:port} and
     * the name alone for MariaDB, whose schemas are its databases; for others the name of their dialect.
     *
     * @param name schema and table, or what a query is called here
     */
    static Named inDatabase(DatabaseAddress address, String name) {
        String place = "://" + address.host() + ":" + address.port();
        return switch (address.dialectName()) {
            case "postgresql" -> new Named("postgres" + place, address.database() + "." + name);
            case "mariadb" -> new Named("mysql" + place, name);
            default -> new Named(address.dialectName() + place, address.database() + "." + name);
        };
    }

    OpenLineage.DatasetFacetsBuilder columns(List<Column> columns) {
        return standard.newDatasetFacetsBuilder()
                .schema(standard.newSchemaDatasetFacet(columns.stream()
                        .map(column -> standard.newSchemaDatasetFacetFieldsBuilder()
                                .name(column.name())
                                .type(column.type().name().toLowerCase(Locale.ROOT))
                                .build())
                        .toList()));
    }

    /** @param fields with the words of their kinds */
    OpenLineage.DatasetFacetsBuilder fields(Map<String, String> fields) {
        return standard.newDatasetFacetsBuilder()
                .schema(standard.newSchemaDatasetFacet(fields.entrySet().stream()
                        .map(field -> standard.newSchemaDatasetFacetFieldsBuilder()
                                .name(field.getKey())
                                .type(field.getValue())
                                .build())
                        .toList()));
    }

    /**
     * What a field is made of.
     *
     * @param directly whether its value goes in, rather than deciding whether or when
     * @param asItIs whether it goes in unchanged
     * @param masked whether nobody can tell it from what comes out
     */
    OpenLineage.InputField from(Named dataset, String column, boolean directly, boolean asItIs, boolean masked) {
        return standard.newInputFieldBuilder()
                .namespace(dataset.namespace())
                .name(dataset.name())
                .field(column)
                .transformations(List.of(standard.newInputFieldTransformationsBuilder()
                        .type(directly ? "DIRECT" : "INDIRECT")
                        .subtype(directly ? asItIs ? "IDENTITY" : "TRANSFORMATION" : "CONDITION")
                        .description("")
                        .masking(masked)
                        .build()))
                .build();
    }

    OpenLineage.JobFacetsBuilder job(String kind) {
        return standard.newJobFacetsBuilder()
                .jobType(standard.newJobTypeJobFacetBuilder()
                        .processingType("BATCH")
                        .integration("REMITTO")
                        .jobType(kind)
                        .build());
    }

    OpenLineage.RunFacetsBuilder run(String problem) {
        OpenLineage.RunFacetsBuilder facets = standard.newRunFacetsBuilder()
                .processing_engine(standard.newProcessingEngineRunFacetBuilder()
                        .name("Remitto")
                        .version("0.1.0")
                        .build());
        if (!problem.isBlank()) {
            facets.errorMessage(standard.newErrorMessageRunFacetBuilder()
                    .message(problem)
                    .programmingLanguage("Java")
                    .build());
        }
        return facets;
    }
}

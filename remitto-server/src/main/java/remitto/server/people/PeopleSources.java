package remitto.server.people;

import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.identity.Attribute;
import remitto.core.identity.Intake;
import remitto.server.dataset.Datasets;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Datasets that describe people, and what their columns say of them. */
@Component
class PeopleSources {
    private final JdbcClient jdbc;
    private final Datasets datasets;
    private final Json json;
    private final Clock clock;

    PeopleSources(JdbcClient jdbc, Datasets datasets, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.datasets = datasets;
        this.json = json;
        this.clock = clock;
    }

    /** A column tied to what it says of a person. */
    record TiedColumn(String column, String attribute, Attribute.Kind kind) {}

    /**
     * @param country ISO 3166-1 alpha-2 that phone numbers are of unless {@code countryColumn} says another; that may be blank
     */
    record PeopleSource(
            long datasetId, String dataset, List<TiedColumn> columns, String country, String countryColumn) {}

    /** In the order people gave, which decides ties. */
    List<PeopleSource> all() {
        return jdbc.sql("""
                        select s.dataset_id, d.name, s.columns, s.country, s.country_column
                        from identity_source s join dataset d on d.id = s.dataset_id order by s.place, s.dataset_id
                        """)
                .query((row, number) -> new PeopleSource(
                        row.getLong("dataset_id"),
                        row.getString("name"),
                        Arrays.asList(json.read(row.getString("columns"), TiedColumn[].class)),
                        row.getString("country"),
                        row.getString("country_column")))
                .list();
    }

    /** Names of all attributes, each once. */
    List<String> attributes() {
        return all().stream()
                .flatMap(source -> new Intake(source.columns().stream()
                                .map(tied -> new Attribute(tied.attribute(), tied.kind()))
                                .toList())
                        .attributes().stream())
                .map(Attribute::name)
                .distinct()
                .toList();
    }

    /** What the columns of a dataset probably are, by their names and roles; to be looked over by a person. */
    PeopleSource suggested(long datasetId) {
        Datasets.Dataset dataset = datasets.get(datasetId);
        List<TiedColumn> tied = new ArrayList<>();
        String country = "";
        for (Column column : dataset.definition().columns()) {
            if (column.name().equals("country")) {
                country = column.name();
            }
            kind(column)
                    .ifPresent(kind -> tied.add(new TiedColumn(column.name(), attribute(kind, column.name()), kind)));
        }
        return new PeopleSource(datasetId, dataset.name(), tied, "NO", country);
    }

    private static Optional<Attribute.Kind> kind(Column column) {
        if (column.role() == ColumnRole.KEY) {
            return Optional.empty();
        }
        String name = column.name().toLowerCase(Locale.ROOT);
        if (name.contains("consent") || name.endsWith("_at")) {
            return Optional.empty();
        }
        if (name.contains("given") || name.contains("first_name")) {
            return Optional.of(Attribute.Kind.GIVEN_NAME);
        }
        if (name.contains("family") || name.contains("last_name") || name.contains("surname")) {
            return Optional.of(Attribute.Kind.FAMILY_NAME);
        }
        if (name.equals("name") || name.contains("full_name")) {
            return Optional.of(Attribute.Kind.FULL_NAME);
        }
        if (name.contains("mail")) {
            return Optional.of(Attribute.Kind.EMAIL);
        }
        if (name.contains("phone") || name.contains("mobile")) {
            return Optional.of(Attribute.Kind.PHONE);
        }
        if (name.contains("birth") || name.equals("born")) {
            return Optional.of(Attribute.Kind.BIRTH_DATE);
        }
        if (name.contains("street") || name.contains("address")) {
            return Optional.of(Attribute.Kind.ADDRESS);
        }
        if (name.contains("post") && column.type() == ColumnType.TEXT) {
            return Optional.of(Attribute.Kind.POSTCODE);
        }
        return column.role() == ColumnRole.IDENTIFIER ? Optional.of(Attribute.Kind.IDENTIFIER) : Optional.empty();
    }

    private static String attribute(Attribute.Kind kind, String column) {
        return kind == Attribute.Kind.IDENTIFIER ? column : kind.name().toLowerCase(Locale.ROOT);
    }

    /** Ties the columns of a dataset; it comes last in the order unless it is there already. */
    @Transactional
    void tie(long datasetId, List<TiedColumn> columns, String country, String countryColumn, String who) {
        Datasets.Dataset dataset = datasets.get(datasetId);
        if (dataset.liveVersion().isEmpty()) {
            throw Problem.invalid("Dataset " + dataset.name() + " has no version in service yet.");
        }
        List<Column> there =
                datasets.version(datasetId, dataset.liveVersion().get()).columns();
        columns.forEach(tied -> {
            if (there.stream().noneMatch(column -> column.name().equals(tied.column()))) {
                throw Problem.invalid("Dataset " + dataset.name() + " has no column " + tied.column() + ".");
            }
        });
        boolean tells = columns.stream().anyMatch(tied -> tied.kind() != Attribute.Kind.TEXT);
        if (!tells) {
            throw Problem.invalid(
                    "Tie at least one column that tells people apart, such as a name or an e-mail address.");
        }
        jdbc.sql("""
                        insert into identity_source (dataset_id, place, columns, country, country_column, saved_by, saved_at)
                        values (:id, (select coalesce(max(place), 0) + 1 from identity_source), :columns::jsonb, :country,
                          :countryColumn, :who, :now)
                        on conflict (dataset_id) do update set columns = excluded.columns, country = excluded.country,
                          country_column = excluded.country_column, saved_by = excluded.saved_by, saved_at = excluded.saved_at
                        """)
                .param("id", datasetId)
                .param("columns", json.write(columns))
                .param("country", country)
                .param("countryColumn", countryColumn)
                .param("who", who)
                .param("now", Rows.time(clock.instant()))
                .update();
    }

    void untie(long datasetId) {
        jdbc.sql("delete from identity_source where dataset_id = ?")
                .param(datasetId)
                .update();
    }
}

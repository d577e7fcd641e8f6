package remitto.server.people.source;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.dataset.Column;
import remitto.core.identity.Intake;
import remitto.core.identity.normalise.DateOrder;
import remitto.core.identity.record.Attribute;
import remitto.server.dataset.Datasets;
import remitto.server.people.EntityType;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Datasets that describe people, and what their columns say of them. */
@Component
public class PeopleSources {
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

    /** What another column says about a value. */
    enum Beside {
        /** Whether it was checked: a truth value, or the time when it was. */
        VERIFIED,
        /** When it was said. */
        SAID_AT,
        /** What proves that it was said. */
        EVIDENCE,
        /** From when it no longer counts. */
        EXPIRES
    }

    /**
     * A column tied to what it says of a person.
     *
     * @param beside columns that say something about it
     * @param order of day and month in its dates; the day first unless said
     */
    public record TiedColumn(
            String column,
            String attribute,
            Attribute.Kind kind,
            Map<Beside, String> beside,
            Optional<DateOrder> order) {
        public TiedColumn {
            beside = Map.copyOf(Objects.requireNonNullElse(beside, Map.of()));
        }

        DateOrder dateOrder() {
            return order.orElse(DateOrder.DAY_FIRST);
        }

        Attribute asAttribute() {
            return new Attribute(attribute, kind);
        }
    }

    /**
     * The company that a record's person belongs to.
     *
     * @param datasetId that describes companies
     * @param column that holds the company's key there
     */
    public record BelongsTo(long datasetId, String column) {}

    /**
     * A dataset whose columns are mapped to people or companies.
     *
     * @param country ISO 3166-1 alpha-2 that phone numbers are of unless {@code countryColumn} says another; that may be blank
     */
    public record PeopleSource(
            EntityType entityType,
            long datasetId,
            String dataset,
            List<TiedColumn> columns,
            String country,
            String countryColumn,
            Optional<BelongsTo> belongsTo) {}

    /** In the order people gave, which decides ties. */
    public List<PeopleSource> all(EntityType entityType) {
        return jdbc.sql("""
                        select s.about, s.dataset_id, d.name, s.columns, s.country, s.country_column, s.company_dataset,
                               s.company_column
                        from identity_source s join dataset d on d.id = s.dataset_id
                        where s.about = ? order by s.place, s.dataset_id
                        """)
                .param(entityType.name())
                .query((row, number) -> new PeopleSource(
                        entityType,
                        row.getLong("dataset_id"),
                        row.getString("name"),
                        Arrays.asList(json.read(row.getString("columns"), TiedColumn[].class)),
                        row.getString("country"),
                        row.getString("country_column"),
                        Rows.optionalLong(row, "company_dataset").map(id -> new BelongsTo(id, text(row)))))
                .list();
    }

    private static String text(ResultSet row) {
        try {
            return row.getString("company_column");
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    /** All attributes, each once. */
    public List<Attribute> attributes(EntityType entityType) {
        return all(entityType).stream()
                .flatMap(source -> new Intake(source.columns().stream()
                                .map(TiedColumn::asAttribute)
                                .toList())
                        .attributes().stream())
                .distinct()
                .toList();
    }

    /** What somebody ties. */
    public record ColumnMapping(
            EntityType entityType,
            List<TiedColumn> columns,
            String country,
            String countryColumn,
            Optional<BelongsTo> belongsTo) {}

    /** Ties the columns of a dataset; it comes last in the order unless it is there already. */
    @Transactional
    public void tie(long datasetId, ColumnMapping request, String who) {
        Datasets.Dataset dataset = datasets.get(datasetId);
        if (dataset.liveVersion().isEmpty()) {
            throw Problem.invalid("Dataset " + dataset.name() + " has no version in service yet.");
        }
        check(dataset, request);
        jdbc.sql("""
                        insert into identity_source (about, dataset_id, place, columns, country, country_column,
                          company_dataset, company_column, saved_by, saved_at)
                        values (:about, :id, (select coalesce(max(place), 0) + 1 from identity_source), :columns::jsonb,
                          :country, :countryColumn, :company, :companyColumn, :who, :now)
                        on conflict (dataset_id) do update set about = excluded.about, columns = excluded.columns,
                          country = excluded.country, country_column = excluded.country_column,
                          company_dataset = excluded.company_dataset, company_column = excluded.company_column,
                          saved_by = excluded.saved_by, saved_at = excluded.saved_at
                        """)
                .param("about", request.entityType().name())
                .param("id", datasetId)
                .param("columns", json.write(request.columns()))
                .param("country", request.country())
                .param("countryColumn", request.countryColumn())
                .param("company", request.belongsTo().map(BelongsTo::datasetId).orElse(null))
                .param(
                        "companyColumn",
                        request.belongsTo().map(BelongsTo::column).orElse(""))
                .param("who", who)
                .param("now", Rows.time(clock.instant()))
                .update();
    }

    private void check(Datasets.Dataset dataset, ColumnMapping request) {
        List<String> there = datasets
                .version(dataset.id(), dataset.liveVersion().orElseThrow())
                .columns()
                .stream()
                .map(Column::name)
                .toList();
        List<String> asked = new ArrayList<>();
        request.columns().forEach(tied -> {
            asked.add(tied.column());
            asked.addAll(tied.beside().values());
        });
        request.belongsTo().ifPresent(company -> asked.add(company.column()));
        asked.stream().filter(column -> !there.contains(column)).findFirst().ifPresent(column -> {
            throw Problem.invalid("Dataset " + dataset.name() + " has no column " + column + ".");
        });
        if (request.columns().stream()
                .noneMatch(tied ->
                        tied.kind() == Attribute.Kind.FULL_NAME || tied.kind().isEvidence())) {
            throw Problem.invalid(
                    "Map at least one column that identifies people, such as a name or an e-mail address.");
        }
        Map<String, Attribute.Kind> kinds = new HashMap<>();
        all(request.entityType()).stream()
                .filter(source -> source.datasetId() != dataset.id())
                .flatMap(source -> source.columns().stream())
                .forEach(tied -> kinds.putIfAbsent(tied.attribute(), tied.kind()));
        for (TiedColumn tied : request.columns()) {
            if (!tied.attribute().matches("[a-z][a-z0-9_]*")) {
                throw Problem.invalid("Name the attribute of " + tied.column()
                        + " in lower-case letters, digits and underscores, such as loyalty_number.");
            }
            Attribute.Kind other = kinds.putIfAbsent(tied.attribute(), tied.kind());
            if (other != null && other != tied.kind()) {
                throw Problem.invalid("The attribute " + tied.attribute() + " is "
                        + other.name().toLowerCase(Locale.ROOT).replace('_', ' ')
                        + " elsewhere; it can be of one kind only.");
            }
        }
        request.belongsTo().ifPresent(company -> {
            if (all(EntityType.COMPANY).stream().noneMatch(one -> one.datasetId() == company.datasetId())) {
                throw Problem.invalid("The dataset that " + company.column()
                        + " holds a key of is not mapped to companies. Map it under companies first.");
            }
        });
    }

    /** Puts a dataset at a place of the order, from 0. */
    @Transactional
    public void move(EntityType entityType, long datasetId, int place) {
        List<Long> order = new ArrayList<>(
                all(entityType).stream().map(PeopleSource::datasetId).toList());
        if (!order.remove(datasetId)) {
            throw Problem.notFound("dataset " + datasetId + " among the sources of this entity type");
        }
        order.add(Math.min(Math.max(0, place), order.size()), datasetId);
        for (int i = 0; i < order.size(); i++) {
            jdbc.sql("update identity_source set place = ? where dataset_id = ?")
                    .params(i, order.get(i))
                    .update();
        }
    }

    public void untie(long datasetId) {
        jdbc.sql("update identity_source set company_dataset = null, company_column = '' where company_dataset = ?")
                .param(datasetId)
                .update();
        jdbc.sql("delete from identity_source where dataset_id = ?")
                .param(datasetId)
                .update();
    }

    /** All that the tied columns decide, in one text. */
    public String words(EntityType entityType) {
        return json.write(all(entityType));
    }
}

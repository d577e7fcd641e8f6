package remitto.server.people.view;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Properties;
import java.util.Set;
import java.util.stream.Collectors;
import org.postgresql.Driver;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.CannotAcquireLockException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.connect.database.DatabaseSettings;
import remitto.core.dataset.ColumnRole;
import remitto.core.identity.record.Attribute;
import remitto.core.known.Fingerprint;
import remitto.server.people.EntityType;
import remitto.server.people.source.PeopleSources;
import remitto.server.platform.Problem;
import remitto.server.source.DatabaseAddress;
import remitto.server.source.Sources;

/**
 * Persons and companies as a source that datasets are made from: views in a schema of their own, which a login of its own may
 * read and nothing else. The login is made by whoever runs the database; without it there is no such source.
 */
@Component
public class PeopleViews {
    private static final Logger LOG = LoggerFactory.getLogger(PeopleViews.class);
    private static final String NAME = "People in Remitto";
    private static final String RECORD = """
            create view people.record as
            select r.dataset_id || ':' || r.key as record, r.person_id as person_id, lower(r.about) as about,
              d.name as dataset, r.key as key, p.label as label, p.records as records
            from identity_record r join dataset d on d.id = r.dataset_id join person p on p.id = r.person_id
            """;
    private static final String RETIRED = """
            create view people.retired as
            select r.id as person_id, r.into_id as became, lower(r.about) as about, i.finished_at as retired_at
            from retired_person r left join identity_run i on i.id = r.run_id
            """;

    private static final String VIEWS =
            "select string_agg(format('people.%I', viewname), ', ') from pg_views where schemaname = 'people'";
    private static final String MEMBER = """
            create view people.audience_member as
            select a.name as audience, m.audience_id, m.person_id, m.held_out, c.counted_at as since
            from audience_member m join audience a on a.id = m.audience_id join audience_count c on c.id = m.since
            where m.until is null
            """;

    /** The key is the person's id and the beginning of the SHA-256 of the normalised address. */
    private static final String ADDRESS = """
            select p.id || '@' || left(encode(sha256(convert_to(v.address, 'UTF8')), 'hex'), 16) as address_key,
              p.id as person_id, %1$s::text as kind, v.address, p.label, v.said_by%2$s
            from person p cross join lateral (
              select r.normalised[%3$d] as address, string_agg(distinct d.name, ', ') as said_by
              from identity_record r join dataset d on d.id = r.dataset_id
              where r.person_id = p.id and r.normalised[%3$d] <> '' group by 1) v
            where p.about = 'PERSON' and %4$s
            """;

    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final TransactionTemplate transactions;
    private final PeopleSources sources;
    private final Sources warehouses;
    private final List<PersonColumns> added;
    private final List<PersonViews> beside;
    private final String url;
    private final String reader;
    private final String password;

    PeopleViews(
            JdbcClient jdbc,
            JdbcTemplate template,
            TransactionTemplate transactions,
            PeopleSources sources,
            Sources warehouses,
            List<PersonColumns> added,
            List<PersonViews> beside,
            @Value("${spring.datasource.url}") String url,
            @Value("${remitto.people-reader.user}") String reader,
            @Value("${remitto.people-reader.password}") String password) {
        this.jdbc = jdbc;
        this.template = template;
        this.transactions = transactions;
        this.sources = sources;
        this.warehouses = warehouses;
        this.added = List.copyOf(added);
        this.beside = List.copyOf(beside);
        this.url = url;
        this.reader = reader;
        this.password = password;
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        try {
            refresh();
        } catch (Problem busy) {
            LOG.warn("The views of people stay as they are: {}", busy.getMessage());
        }
        if (!password.isEmpty() && hasReader()) {
            Properties parts = Driver.parseURL(url, new Properties());
            if (parts == null) {
                LOG.warn("The address of the database cannot be read; there is no source of people");
                return;
            }
            warehouses.people(
                    NAME,
                    DatabaseAddress.postgresql(
                            parts.getProperty("PGHOST", "127.0.0.1"),
                            Integer.parseInt(parts.getProperty("PGPORT", "5432")),
                            parts.getProperty("PGDBNAME", "remitto"),
                            reader,
                            DatabaseSettings.Tls.OFF),
                    password);
            sourceId().ifPresent(warehouses::test);
        }
    }

    private boolean hasReader() {
        return jdbc.sql("select exists (select from pg_roles where rolname = ?)")
                .param(reader)
                .query(Boolean.class)
                .single();
    }

    /** The source that datasets over people are made from; absent when its login was not made. */
    public Optional<Long> sourceId() {
        return jdbc.sql("select id from source where kind = 'people'")
                .query(Long.class)
                .optional();
    }

    /**
     * Makes the views again, with a column for every attribute and every dataset, unless they are as they must be.
     *
     * @throws Problem while somebody reads them for long
     */
    public void refresh() {
        try {
            transactions.executeWithoutResult(status -> {
                // Several processes may begin at once.
                template.execute("set local lock_timeout = '5s'");
                template.execute("select pg_advisory_xact_lock(7041889)");
                List<String> made = new ArrayList<>(List.of(
                        view(EntityType.PERSON, "person"),
                        view(EntityType.COMPANY, "company"),
                        RECORD,
                        RETIRED,
                        MEMBER,
                        addresses()));
                beside.forEach(one -> one.views()
                        .forEach(
                                view -> made.add("create view people." + quoted(view.name()) + " as " + view.query())));
                String mark = Long.toHexString(new Fingerprint().of(made));
                if (!mark.equals(mark())) {
                    dropAll();
                    made.forEach(template::execute);
                    template.execute("comment on view people.person is " + literal(mark));
                }
                if (hasReader()) {
                    template.execute("grant usage on schema people to " + quoted(reader));
                    template.execute("grant select on all tables in schema people to " + quoted(reader));
                }
            });
        } catch (CannotAcquireLockException e) {
            throw Problem.conflict(
                    "The columns are saved, but a route is reading people now. Save them again later so that datasets see the change.");
        }
        sourceId().ifPresent(warehouses::test);
    }

    /** @throws Problem while somebody reads them for long */
    public void drop() {
        try {
            transactions.executeWithoutResult(status -> {
                template.execute("set local lock_timeout = '5s'");
                dropAll();
            });
        } catch (CannotAcquireLockException e) {
            throw Problem.conflict("A route is reading people now. Try again when it is finished.");
        }
    }

    private void dropAll() {
        jdbc.sql(VIEWS).query(String.class).optional().ifPresent(names -> template.execute("drop view " + names));
    }

    private String mark() {
        return jdbc.sql("select coalesce(obj_description(to_regclass('people.person')), '')")
                .query(String.class)
                .single();
    }

    /** Every address of a person, each once, normalised, with what the person agreed to: to send to all of them rather than the kept one. */
    private String addresses() {
        StringBuilder consents = new StringBuilder();
        Set<String> taken = new HashSet<>(Set.of("address_key", "person_id", "kind", "address", "label", "said_by"));
        for (PersonColumns adding : added) {
            adding.columns(EntityType.PERSON).stream()
                    .filter(one -> one.role() == ColumnRole.CONSENT && taken.add(one.name()))
                    .forEach(one -> consents.append(", ")
                            .append(one.value())
                            .append(" as ")
                            .append(quoted(one.name())));
        }
        List<String> parts = new ArrayList<>();
        List<Attribute> attributes = sources.attributes(EntityType.PERSON);
        for (int i = 0; i < attributes.size(); i++) {
            Attribute attribute = attributes.get(i);
            if (attribute.kind() == Attribute.Kind.EMAIL || attribute.kind() == Attribute.Kind.PHONE) {
                parts.add(ADDRESS.formatted(literal(attribute.name()), consents, i + 1, "true"));
            }
        }
        return "create view people.address as "
                + (parts.isEmpty() ? ADDRESS.formatted("''", consents, 1, "false") : String.join(" union all ", parts));
    }

    private String view(EntityType entityType, String name) {
        Set<String> taken = new HashSet<>(Set.of("person_id", "label", "records", "since", "changed_at", "company_id"));
        List<String> columns = new ArrayList<>();
        for (Attribute attribute : sources.attributes(entityType)) {
            column(attribute, taken).ifPresent(columns::add);
            if (attribute.kind() == Attribute.Kind.CONSENT && taken.add(attribute.name() + "_at")) {
                columns.add("(p.attributes->>" + literal(attribute.name() + "_at") + ")::timestamptz as "
                        + quoted(attribute.name() + "_at"));
            }
        }
        for (PeopleSources.PeopleSource source : sources.all(entityType)) {
            String keys = slug(source.dataset()) + "_keys";
            if (taken.add(keys)) {
                columns.add("(select string_agg(k, '|') from jsonb_array_elements_text(p.keys->"
                        + literal(Long.toString(source.datasetId())) + ") k) as " + quoted(keys));
            }
        }
        for (PersonColumns adding : added) {
            for (PersonColumns.AddedColumn one : adding.columns(entityType)) {
                if (taken.add(one.name())) {
                    columns.add(one.value() + " as " + quoted(one.name()));
                }
            }
        }
        String company = entityType == EntityType.PERSON ? """
                (select min(k.person_id) from identity_record r
                  join identity_record k on k.dataset_id = r.company_dataset and k.key = r.company_key
                  where r.person_id = p.id) as company_id
                """ : "null::bigint as company_id";
        return "create view people." + name + " as select p.id as person_id, p.label, p.records, p.since,"
                + " p.changed_at, " + company
                + columns.stream().map(column -> ", " + column).collect(Collectors.joining())
                + " from person p where p.about = " + literal(entityType.name());
    }

    private static Optional<String> column(Attribute attribute, Set<String> taken) {
        if (!taken.add(attribute.name())) {
            return Optional.empty();
        }
        return Optional.of(typed(attribute) + " as " + quoted(attribute.name()));
    }

    /** The kept value of an attribute of {@code p}, in its type; null where there is none. */
    public static String typed(Attribute attribute) {
        String value = "(p.attributes->>" + literal(attribute.name()) + ")";
        return switch (attribute.kind()) {
            case BIRTH_DATE -> "case when " + value + " ~ '^\\d{4}-\\d\\d-\\d\\d$' then " + value + "::date end";
            case CONSENT -> value + " = 'yes'";
            case NUMBER ->
                "case when " + value + " ~ '^[+-]?\\d{1,30}([.]\\d{1,30})?$' then " + value + "::numeric end";
            default -> "nullif(btrim(" + value + "), '')";
        };
    }

    private static String slug(String name) {
        String plain =
                name.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "_").replaceAll("^_|_$", "");
        return plain.isEmpty() || Character.isDigit(plain.charAt(0)) ? "d_" + plain : plain;
    }

    private static String quoted(String name) {
        return "\"" + name.replace("\"", "\"\"") + "\"";
    }

    private static String literal(String text) {
        return "'" + text.replace("'", "''") + "'";
    }
}

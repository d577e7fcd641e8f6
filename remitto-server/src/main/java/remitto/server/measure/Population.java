package remitto.server.measure;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.audience.Vocabulary;
import remitto.core.audience.sql.Storage;
import remitto.core.dataset.ColumnType;
import remitto.core.known.Fingerprint;
import remitto.server.event.EventSets;
import remitto.server.people.EntityType;
import remitto.server.people.person.PersonFacts;

/**
 * All people and companies with their attributes in columns of their type, so that counting over them is as fast as the
 * database can. Kept beside the people themselves, and brought up to date where they changed.
 */
@Component
public class Population {
    /** Up to so many, everybody is counted; beyond, a sample answers while somebody edits. */
    static final long COUNTED_WHOLE = 60_000;

    private static final long SAMPLE = 6_000;
    private static final String BASE = "audience.person_base";

    private final PersonFacts facts;
    private final Measures measures;
    private final EventSets events;
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final TransactionTemplate transactions;

    Population(
            PersonFacts facts,
            Measures measures,
            EventSets events,
            JdbcClient jdbc,
            JdbcTemplate template,
            TransactionTemplate transactions) {
        this.facts = facts;
        this.measures = measures;
        this.events = events;
        this.jdbc = jdbc;
        this.template = template;
        this.transactions = transactions;
    }

    /** What conditions over them may speak of. */
    public Vocabulary words(EntityType entityType) {
        return words(entityType, Long.MAX_VALUE);
    }

    /** @param before only measures older than this one */
    Vocabulary words(EntityType entityType, long before) {
        Map<String, ColumnType> attributes = new TreeMap<>();
        facts.kept(entityType).forEach(one -> attributes.put(one.name(), one.type()));
        Map<String, Map<String, ColumnType>> columns = new TreeMap<>();
        events.all().stream()
                .filter(set -> set.entityType() == entityType)
                .forEach(set -> columns.put(set.name(), set.types()));
        for (Measures.PersonMeasure measure : measures.all(entityType)) {
            if (measure.id() < before) {
                attributes.put(measure.name(), measure.derivation().type(new Vocabulary(attributes, columns)));
            }
        }
        return new Vocabulary(attributes, columns);
    }

    public Storage storage(EntityType entityType) {
        Map<String, String> tables = new TreeMap<>();
        events.all().forEach(set -> tables.put(set.name(), set.table()));
        return new Storage(
                view(entityType),
                "audience.record",
                tables,
                "audience.member",
                "consent_answer",
                "identity_record",
                "audience.sent");
    }

    /** The same of a sample of people. */
    public Storage sample() {
        String sampled = "person_id in (select person_id from audience.people_sample)";
        Map<String, String> tables = new TreeMap<>();
        events.all().forEach(set -> tables.put(set.name(), set.sample()));
        return new Storage(
                "audience.people_sample",
                "audience.record_sample",
                tables,
                "(select * from audience.member where " + sampled + ")",
                "(select * from consent_answer where " + sampled + ")",
                "(select * from identity_record where " + sampled + ")",
                "(select * from audience.sent where " + sampled + ")");
    }

    static String view(EntityType entityType) {
        return entityType == EntityType.PERSON ? "audience.people" : "audience.companies";
    }

    /** One of how many people is in the sample; 0 while everybody is counted. */
    public int oneOf() {
        return jdbc.sql("select one_of from audience_setting")
                .query(Integer.class)
                .single();
    }

    /** How many people there were when the sample was drawn. */
    public long sampledOf() {
        return jdbc.sql("select people from audience_setting").query(Long.class).single();
    }

    /** Conditions can be asked from the start on, also where people were joined before there was such a table. */
    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        if (mark().isEmpty()) {
            refresh();
        }
    }

    /** Brings it up to date with the people as they are now. */
    public void refresh() {
        transactions.executeWithoutResult(status -> {
            template.execute("select pg_advisory_xact_lock(7041890)");
            Map<String, PersonFacts.Kept> columns = columns();
            StringBuilder list = new StringBuilder();
            StringBuilder values = new StringBuilder();
            columns.values().forEach(one -> {
                list.append(", ").append(quoted(one.name()));
                values.append(", ").append(one.value()).append(" as ").append(quoted(one.name()));
            });
            String select = "select p.id as person_id, p.label, p.about, p.changed_at" + values + " from person p";
            String mark = Long.toHexString(new Fingerprint().of(List.of(select)));
            if (mark.equals(mark())) {
                update(list.toString(), select, columns.keySet());
            } else {
                template.execute("drop view if exists audience.people, audience.companies");
                template.execute("drop table if exists " + BASE);
                template.execute("create table " + BASE + " as " + select);
                template.execute("alter table " + BASE + " add primary key (person_id)");
                template.execute("comment on table " + BASE + " is '" + mark + "'");
            }
            template.execute("analyze " + BASE);
            views();
        });
    }

    private Map<String, PersonFacts.Kept> columns() {
        Map<String, PersonFacts.Kept> columns = new LinkedHashMap<>();
        for (EntityType entityType : EntityType.values()) {
            facts.kept(entityType).forEach(one -> columns.putIfAbsent(one.name(), one));
        }
        return columns;
    }

    private String mark() {
        return jdbc.sql("select coalesce(obj_description(to_regclass('" + BASE + "')), '')")
                .query(String.class)
                .single();
    }

    private void update(String list, String select, Iterable<String> names) {
        template.execute("delete from " + BASE + " b where not exists (select from person p where p.id = b.person_id)");
        List<String> set = new ArrayList<>(List.of("label = excluded.label", "changed_at = excluded.changed_at"));
        names.forEach(name -> set.add(quoted(name) + " = excluded." + quoted(name)));
        template.execute("insert into " + BASE + " (person_id, label, about, changed_at" + list + ") " + select
                + " where p.changed_at >= (select coalesce(max(changed_at), '-infinity') from " + BASE
                + ") on conflict (person_id) do update set " + String.join(", ", set));
    }

    /** Lets go of a measure that is about to be another one; {@link #views} takes it up again. */
    void dropViews() {
        template.execute("drop view if exists audience.people, audience.companies");
    }

    /** Names the measures beside the attributes. */
    void views() {
        transactions.executeWithoutResult(status -> {
            if (mark().isEmpty()) {
                return;
            }
            template.execute("drop view if exists audience.people, audience.companies");
            List<String> based = jdbc.sql("select attname from pg_attribute where attrelid = to_regclass('" + BASE
                            + "') and attnum > 0 and not attisdropped")
                    .query(String.class)
                    .list();
            for (EntityType entityType : EntityType.values()) {
                StringBuilder columns = new StringBuilder();
                StringBuilder joins = new StringBuilder();
                facts.kept(entityType).forEach(one -> columns.append(", ").append(kept(one, based)));
                for (Measures.PersonMeasure measure : measures.all(entityType)) {
                    String alias = "m" + measure.id();
                    columns.append(", ")
                            .append(MeasureColumns.withoutEvents(measure, alias + ".value"))
                            .append(" as ")
                            .append(quoted(measure.name()));
                    // Every table has one row a person, so that the planner leaves out those that are not asked for.
                    joins.append(" left join ")
                            .append(measure.table())
                            .append(' ')
                            .append(alias)
                            .append(" on ")
                            .append(alias)
                            .append(".person_id = b.person_id");
                }
                template.execute("create view " + view(entityType) + " as select b.person_id, b.label" + columns
                        + " from " + BASE + " b" + joins + " where b.about = '" + entityType + "'");
            }
        });
    }

    /** An attribute that came since people were written down here last is one that nobody has until they are again. */
    private static String kept(PersonFacts.Kept attribute, List<String> based) {
        return based.contains(attribute.name())
                ? "b." + quoted(attribute.name())
                : "null::" + EventSets.sqlType(attribute.type()) + " as " + quoted(attribute.name());
    }

    /** Draws the sample again, if there are so many people that one is needed. */
    public void drawSample() {
        transactions.executeWithoutResult(status -> {
            long people = jdbc.sql("select count(*) from " + BASE + " where about = 'PERSON'")
                    .query(Long.class)
                    .single();
            int oneOf = people <= COUNTED_WHOLE ? 0 : (int) (people / SAMPLE);
            template.execute("drop table if exists audience.people_sample, audience.record_sample");
            if (oneOf > 0) {
                template.execute("create table audience.people_sample as select * from audience.people"
                        + " where mod(abs(hashint8(person_id)::bigint), " + oneOf + ") = 0");
                template.execute("alter table audience.people_sample add primary key (person_id)");
                template.execute("analyze audience.people_sample");
                template.execute(
                        "create table audience.record_sample as select r.record_no, r.person_id from audience.record r"
                                + " join audience.people_sample s on s.person_id = r.person_id");
                template.execute("analyze audience.record_sample");
                for (EventSets.EventSet set : events.all()) {
                    template.execute("truncate " + set.sample());
                    template.execute("insert into " + set.sample() + " select e.* from " + set.table() + " e"
                            + " join audience.record_sample r on r.record_no = e.record_no");
                    template.execute("analyze " + set.sample());
                }
            }
            jdbc.sql("update audience_setting set one_of = ?, people = ?")
                    .params(oneOf, people)
                    .update();
        });
    }

    /** The values of a column with how many have each, the most frequent first. */
    public Map<String, Long> values(String table, String column, int most) {
        Map<String, Long> values = new LinkedHashMap<>();
        jdbc.sql("select " + quoted(column) + "::text as value, count(*) as people from " + table + " where "
                        + quoted(column) + " is not null group by 1 order by 2 desc, 1 limit " + most)
                .query(row -> {
                    values.put(row.getString("value"), row.getLong("people"));
                });
        return values;
    }

    static String quoted(String name) {
        return "\"" + name.replace("\"", "\"\"") + "\"";
    }
}

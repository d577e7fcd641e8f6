package remitto.server.footprint;

import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.known.Fingerprint;
import remitto.server.people.person.PersonKeys;
import remitto.server.trace.AddressTraces;

/**
 * Finds everything that routes keep of a person: by the keys of the person's records, and by the person's addresses in what was
 * sent from datasets that say nothing of people. Everything is found by index.
 */
@Component
public class RecordsOfPerson {
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final PersonKeys keys;
    private final PersonTexts texts;
    private final AddressTraces traces;

    RecordsOfPerson(JdbcClient jdbc, JdbcTemplate template, PersonKeys keys, PersonTexts texts, AddressTraces traces) {
        this.traces = traces;
        this.jdbc = jdbc;
        this.template = template;
        this.keys = keys;
        this.texts = texts;
    }

    /**
     * Finds out by which keys, and as which records of routes, the person is known. In the tables {@code gone_key}
     * (dataset and key) and {@code gone_record} (route, ordinal and the record there), which last until the end of the caller's
     * transaction.
     */
    public void find(long person) {
        template.execute("drop table if exists gone_key, gone_text, gone_address, gone_record");
        template.execute(
                "create temp table gone_key (dataset_id bigint, key text, high bigint, low bigint) on commit drop");
        Fingerprint fingerprint = new Fingerprint();
        keys.of(person)
                .forEach((dataset, its) -> its.forEach(key -> {
                    long[] hash = fingerprint.key(key);
                    jdbc.sql("insert into gone_key values (?, ?, ?, ?)")
                            .params(dataset, key, hash[0], hash[1])
                            .update();
                }));
        addresses(person);
        traces.complete();
        template.execute("""
                create temp table gone_record on commit drop as
                with met as (
                  select e.route_id, e.ordinal from gone_key k join route r on r.dataset_id = k.dataset_id
                  join route_record e on e.route_id = r.id and e.key_high = k.high and e.key_low = k.low
                  union
                  select t.route_id, t.ordinal from gone_address g join address_trace t on t.address = g.address)
                select e.route_id, e.ordinal, e.source_key, s.record_id
                from met join route_record e on e.route_id = met.route_id and e.ordinal = met.ordinal
                left join record_state s on s.route_id = e.route_id and s.ordinal = e.ordinal
                """);
        template.execute("""
                insert into gone_key
                select distinct r.dataset_id, e.source_key, e.key_high, e.key_low from gone_record g join route r on r.id = g.route_id
                join route_record e on e.route_id = g.route_id and e.ordinal = g.ordinal
                where not exists (select from gone_key k where k.dataset_id = r.dataset_id and k.key = e.source_key)
                """);
    }

    /** The texts stay in {@code gone_text}, and what they are traced by in {@code gone_address}. */
    private void addresses(long person) {
        template.execute("create temp table gone_text (text text primary key) on commit drop");
        jdbc.sql("insert into gone_text select distinct v from unnest(?::text[]) v")
                .param(texts.of(person).toArray(String[]::new))
                .update();
        template.execute("create temp table gone_address on commit drop as select distinct " + AddressTraces.TRACE
                + " as address from (select text as v from gone_text) t");
    }
}

package remitto.server.run;

import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.identity.Attribute;
import remitto.core.known.Fingerprint;
import remitto.server.people.About;
import remitto.server.people.PersonFacts;
import remitto.server.people.PersonKeys;

/**
 * Finds everything that routes keep of a person: by the keys of the person's records, and by the person's addresses in what was
 * sent from datasets that say nothing of people. Looks at all that is kept, so it is for what happens rarely.
 */
@Component
public class RecordsOfPerson {
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final PersonKeys keys;
    private final PersonFacts facts;

    RecordsOfPerson(JdbcClient jdbc, JdbcTemplate template, PersonKeys keys, PersonFacts facts) {
        this.jdbc = jdbc;
        this.template = template;
        this.keys = keys;
        this.facts = facts;
    }

    /**
     * Finds out by which keys, and as which records of routes, the person is known. In the tables {@code gone_key}
     * (dataset and key) and {@code gone_record} (route, ordinal and the record there), which last until the end of the caller's
     * transaction.
     */
    public void find(long person) {
        template.execute("drop table if exists gone_key, gone_text, gone_record");
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
        template.execute("""
                create temp table gone_record on commit drop as
                with met as (
                  select e.route_id, e.ordinal from gone_key k join route r on r.dataset_id = k.dataset_id
                  join route_record e on e.route_id = r.id and e.key_high = k.high and e.key_low = k.low
                  union
                  select s.route_id, s.ordinal from destination_record d join record_state s on s.record_id = d.id
                  where exists (select from jsonb_each_text(d.fields) f join gone_text t on t.text = lower(f.value))
                  union
                  select r.route_id, m.ordinal from manifest_line m join run r on r.id = m.run_id
                  where m.ordinal > 0 and (
                    exists (select from jsonb_array_elements(m.fields) f
                      join gone_text t on t.text in (lower(f ->> 'fresh'), lower(f ->> 'old')))
                    or exists (select from jsonb_each_text(m.inputs) i join gone_text t on t.text = lower(i.value))))
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

    /**
     * The person's addresses as they may stand in what was sent from datasets that say nothing of people: as spelled, tidied, and
     * hashed. One that somebody else has too tells nothing.
     */
    private void addresses(long person) {
        template.execute("create temp table gone_text (text text primary key) on commit drop");
        for (PersonFacts.AddressPlace place : facts.addresses(About.PERSON)) {
            String spelled =
                    place.kind() == Attribute.Kind.EMAIL ? "lower(btrim(r.cells ->> :attribute))" : "null::text";
            jdbc.sql("""
                            with own as (
                              select %s as spelled, r.tidied[:place] as tidied,
                                encode(sha256(convert_to(r.tidied[:place], 'UTF8')), 'hex') as hash
                              from identity_record r where r.person_id = :person and r.tidied[:place] <> '')
                            insert into gone_text
                            select distinct t from own, unnest(array[spelled, lower(tidied), hash]) t
                            where t <> '' and not exists (
                              select from person_address a where a.hash = own.hash and a.person_id <> :person)
                            on conflict do nothing
                            """.formatted(spelled))
                    .param("attribute", place.attribute())
                    .param("place", place.place())
                    .param("person", person)
                    .update();
        }
    }
}

package remitto.server.footprint;

import java.util.ArrayList;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.known.Fingerprint;
import remitto.server.people.person.PersonKeys;
import remitto.server.people.person.SentTo;
import remitto.server.trace.AddressTraces;

/** Looks up, by index and without writing anything, which records of routes are a person's. */
@Component
class SentOfPerson implements SentTo {
    private static final int MOST = 500;

    /** Records of a route of which one would do that another route writes too. */
    private static final int LOOKED_AT = 1_000;

    private final JdbcClient jdbc;
    private final PersonKeys keys;
    private final PersonTexts texts;

    SentOfPerson(JdbcClient jdbc, PersonKeys keys, PersonTexts texts) {
        this.jdbc = jdbc;
        this.keys = keys;
        this.texts = texts;
    }

    @Override
    public List<SentAs> sent(long person) {
        Fingerprint fingerprint = new Fingerprint();
        List<Long> datasets = new ArrayList<>();
        List<Long> highs = new ArrayList<>();
        List<Long> lows = new ArrayList<>();
        keys.of(person)
                .forEach((dataset, its) -> its.forEach(key -> {
                    long[] hash = fingerprint.key(key);
                    datasets.add(dataset);
                    highs.add(hash[0]);
                    lows.add(hash[1]);
                }));
        return jdbc.sql("""
                        with own as (
                          select e.route_id, e.ordinal, 0 as way
                          from unnest(:datasets::bigint[], :highs::bigint[], :lows::bigint[]) as k (dataset_id, high, low)
                          join route r on r.dataset_id = k.dataset_id
                          join route_record e on e.route_id = r.id and e.key_high = k.high and e.key_low = k.low
                          union
                          select t.route_id, t.ordinal, 1
                          from (select distinct %s as address from unnest(:texts::text[]) as v) as a
                          join address_trace t on t.address = a.address),
                        met as (
                          select route_id, ordinal, way from own
                          union
                          select o.route_id, o.ordinal, 2 from own
                          join record_state s on s.route_id = own.route_id and s.ordinal = own.ordinal
                          join record_state o on o.record_id = s.record_id),
                        surest as (select route_id, ordinal, min(way) as way from met group by 1, 2)
                        select r.id, r.name, t.id as destination_id, t.name as destination, w.object, w.remote_id, e.source_key,
                          w.run_id, m.way
                        from surest m join route r on r.id = m.route_id
                        join route_record e on e.route_id = m.route_id and e.ordinal = m.ordinal
                        join record_state s on s.route_id = m.route_id and s.ordinal = m.ordinal
                        join destination_record w on w.id = s.record_id
                        join destination t on t.id = w.destination_id
                        order by t.name, w.object, w.remote_id, r.id limit :most
                        """.formatted(AddressTraces.TRACE))
                .param("datasets", datasets.toArray(Long[]::new))
                .param("highs", highs.toArray(Long[]::new))
                .param("lows", lows.toArray(Long[]::new))
                .param("texts", texts.of(person).toArray(String[]::new))
                .param("most", MOST)
                .query((row, number) -> new SentAs(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getLong("destination_id"),
                        row.getString("destination"),
                        row.getString("object"),
                        row.getString("remote_id"),
                        row.getString("source_key"),
                        row.getLong("run_id"),
                        LinkedBy.values()[row.getInt("way")]))
                .list();
    }

    @Override
    public List<UnlinkedRoute> unlinked() {
        return jdbc.sql("""
                        select r.id, r.name, t.name as destination, r.object
                        from route r join destination t on t.id = r.destination_id
                        join dataset d on d.id = r.dataset_id join source s on s.id = d.source_id
                        where s.kind <> 'people'
                          and exists (select from record_state b where b.route_id = r.id and b.record_id is not null)
                          and not exists (select from identity_source i where i.dataset_id = r.dataset_id)
                          and not exists (select from address_trace a where a.route_id = r.id)
                          and not exists (
                            select from (
                              select b.record_id from record_state b where b.route_id = r.id and b.record_id is not null limit :looked) b
                            join record_state o on o.record_id = b.record_id and o.route_id <> r.id)
                        order by r.name
                        """)
                .param("looked", LOOKED_AT)
                .query((row, number) -> new UnlinkedRoute(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getString("destination"),
                        row.getString("object")))
                .list();
    }
}

package remitto.server.rights;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.server.dataset.Datasets;
import remitto.server.event.EventSets;
import remitto.server.measure.Measures;
import remitto.server.people.person.SentTo;
import remitto.server.platform.Json;
import remitto.server.rights.mark.ErasedMarks;

/**
 * Takes everything that is kept of a person out of the database. Manifests keep their lines, so that their sums stay what they
 * were; a line says that it was erased and holds nothing else. Each step is part of the caller's transaction.
 */
@Component
class Forgetting {
    static final String ERASED = "Erased on request";

    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final Datasets datasets;
    private final EventSets events;
    private final Measures measures;
    private final SentTo sent;
    private final Json json;
    private final List<KeptRows> kept;

    Forgetting(
            JdbcClient jdbc,
            JdbcTemplate template,
            Datasets datasets,
            EventSets events,
            Measures measures,
            SentTo sent,
            Json json,
            List<KeptRows> kept) {
        this.kept = List.copyOf(kept);
        this.jdbc = jdbc;
        this.template = template;
        this.datasets = datasets;
        this.events = events;
        this.measures = measures;
        this.sent = sent;
        this.json = json;
    }

    /** Records found, by dataset and key, so that they can be told when they come again. */
    List<ErasedMarks.Record> records() {
        return jdbc.sql("select dataset_id, key from gone_key")
                .query((row, number) -> new ErasedMarks.Record(row.getLong("dataset_id"), row.getString("key")))
                .list();
    }

    /** Routes that read a dataset with a record of the person, whether they met it or not. */
    List<Long> routes() {
        return jdbc.sql("select distinct r.id from gone_key k join route r on r.dataset_id = k.dataset_id")
                .query(Long.class)
                .list();
    }

    /**
     * Writes down what has to be removed where.
     *
     * @return how many records that is
     */
    int collect(long erasure) {
        return jdbc.sql("""
                        insert into erasure_removal (erasure_id, number, destination_id, destination, object, remote_id, state, answer)
                        select :erasure, row_number() over (order by w.destination_id, w.object, w.remote_id), w.destination_id, t.name,
                          w.object, w.remote_id,
                          case when w.shared then 'BY_HAND' else 'PENDING' end,
                          case when w.shared then 'Another record, of somebody else, is kept there as well; look at it there.' else '' end
                        from (
                          select d.*, exists (select from record_state o where o.record_id = d.id and not exists (
                            select from gone_record g where g.route_id = o.route_id and g.ordinal = o.ordinal)) as shared
                          from destination_record d where d.id in (select record_id from gone_record)) w
                        join destination t on t.id = w.destination_id
                        """).param("erasure", erasure).update() + trials(erasure);
    }

    /** Records that were written to try a route. */
    private int trials(long erasure) {
        return jdbc.sql("""
                        insert into erasure_removal (erasure_id, number, destination_id, destination, object, remote_id, state, answer)
                        select :erasure, (select coalesce(max(number), 0) from erasure_removal where erasure_id = :erasure)
                          + row_number() over (order by t.id), t.destination_id, d.name, t.object, t.remote_id, 'PENDING', ''
                        from test_record t join route r on r.id = t.route_id
                        join gone_key k on k.dataset_id = r.dataset_id and k.key = t.source_key
                        join destination d on d.id = t.destination_id
                        where t.removed_at is null and not exists (select from erasure_removal e where e.erasure_id = :erasure
                          and e.destination_id = t.destination_id and e.object = t.object and e.remote_id = t.remote_id)
                        """).param("erasure", erasure).update();
    }

    /**
     * What is out of reach, in sentences without a name: files that were handed over, which nobody can take back. Before anything is
     * forgotten.
     */
    List<String> unreached() {
        List<String> sentences = new ArrayList<>(files());
        kept.forEach(one -> sentences.addAll(one.unreached()));
        sent.unlinked()
                .forEach(one -> sentences.add("Records of route " + one.route() + " in " + one.destination()
                        + " cannot be linked to anybody: its rows have no key of a person, and it sent no address."));
        return sentences;
    }

    private List<String> files() {
        return jdbc.sql("""
                        select d.name, count(distinct f.path) as files, min(f.delivered_at)::date as first, max(f.delivered_at)::date as last
                        from (select distinct route_id from gone_record) g
                        join run r on r.route_id = g.route_id join file_delivery f on f.run_id = r.id
                        join route o on o.id = g.route_id join destination d on d.id = o.destination_id
                        group by 1 order by 1
                        """)
                .query((row, number) -> row.getLong("files") + " file" + (row.getLong("files") == 1 ? "" : "s")
                        + " handed over to " + row.getString("name") + " from " + row.getString("first") + " to "
                        + row.getString("last")
                        + " may hold rows of the person. Ask the people who received them to remove those rows.")
                .list();
    }

    /** @return by kind of data, how many there were; what there was nothing of is missing */
    Map<String, Long> forget(long person) {
        Map<String, Long> counts = new LinkedHashMap<>();
        words(person, counts);
        heldBack(counts);
        lines(counts);
        known(counts);
        besides(counts);
        kept.forEach(one -> counts.putAll(one.forget()));
        derived(person, counts);
        person(person, counts);
        counts.values().removeIf(count -> count == 0);
        return counts;
    }

    /** An entry of the journal stays, with its place in the chain; what it says in words goes. */
    private void words(long person, Map<String, Long> counts) {
        count(counts, "words of the journal", """
                delete from journal_words w using ledger.journal j where j.id = w.journal_id and (
                  j.subject_kind = 'person' and j.subject_id = %d
                  or exists (select from gone_text t where strpos(lower(w.subject || ' ' || w.detail), t.text) > 0)
                  or exists (select from gone_key k where w.subject = k.key and length(k.key) >= 4))
                """.formatted(person));
    }

    /** Lines that have not gone never will. */
    private void heldBack(Map<String, Long> counts) {
        count(counts, "lines of waiting manifests, which will not be sent", """
                insert into line_outcome (run_id, line, state, remote_id, answer, answered_at)
                select m.run_id, m.line, 'CANCELLED', '', '%s', r.started_at
                from gone_record g join run r on r.route_id = g.route_id and r.state in ('READY', 'AWAITING_APPROVAL', 'SUSPENDED', 'INTERRUPTED')
                join manifest_line m on m.run_id = r.id and m.ordinal = g.ordinal
                where m.verdict in ('ADDED', 'CHANGED', 'REMOVED')
                on conflict do nothing
                """.formatted(ERASED));
    }

    private void lines(Map<String, Long> counts) {
        template.execute("""
                create temp table gone_line on commit drop as
                select m.run_id, m.line from gone_record g join run r on r.route_id = g.route_id
                join manifest_line m on m.run_id = r.id and m.ordinal = g.ordinal
                union
                select m.run_id, m.line from gone_key k join route o on o.dataset_id = k.dataset_id
                join run r on r.route_id = o.id join manifest_line m on m.run_id = r.id and m.source_key = k.key
                """);
        template.execute("analyze gone_line");
        count(counts, "lines of manifests", """
                update manifest_line m set source_key = '', label = '%1$s', remote_id = '', input_fingerprint = 0, sent_fingerprint = 0,
                  reason = case when m.reason = '' then '' else '%1$s' end, inputs = '{}', beyond = '{}', sends = '{}',
                  marks = '{}', recheck_at = null,
                  fields = (select coalesce(jsonb_agg(jsonb_build_object('field', f -> 'field', 'outcome', f -> 'outcome', 'old', null,
                    'fresh', null, 'reason', '%1$s')), '[]') from jsonb_array_elements(m.fields) f)
                from gone_line g where m.run_id = g.run_id and m.line = g.line
                """.formatted(ERASED));
        count(counts, "answers of destinations", """
                update line_outcome o set remote_id = '', answer = case when o.answer = '' then '' else '%s' end
                from gone_line g where o.run_id = g.run_id and o.line = g.line
                """.formatted(ERASED));
    }

    private void known(Map<String, Long> counts) {
        count(counts, "held records and values", """
                delete from held h using gone_key k, route r
                where r.dataset_id = k.dataset_id and h.route_id = r.id and h.source_key = k.key
                """);
        template.execute("""
                create temp table gone_there on commit drop as
                select d.destination_id, d.object, d.remote_id, d.id from destination_record d
                where d.id in (select record_id from gone_record)
                """);
        count(counts, "findings of stocktakes", """
                update stocktake_finding f set remote_id = '', source_key = '', label = '%s', known = null, there = null
                from stocktake s, gone_there g where s.id = f.stocktake_id and s.destination_id = g.destination_id
                  and s.object = g.object and f.remote_id = g.remote_id
                """.formatted(ERASED));
        count(counts, "findings of stocktakes that name the person", """
                update stocktake_finding f set remote_id = '', source_key = '', label = '%1$s', known = null, there = null
                where f.label <> '%1$s' and (
                  exists (select from gone_text t where strpos(lower(concat_ws(' ', f.known, f.there, f.label)), t.text) > 0)
                  or exists (select from gone_key k join route r on r.dataset_id = k.dataset_id
                    where r.id = f.route_id and f.source_key = k.key))
                """.formatted(ERASED));
        count(counts, "records of trials", """
                delete from test_record t using gone_key k, route r
                where r.id = t.route_id and r.dataset_id = k.dataset_id and t.source_key = k.key
                """);
        for (String table : List.of("stocktake_seen", "stocktake_alike")) {
            template.update("delete from " + table + " a using stocktake s, gone_there g where s.id = a.stocktake_id"
                    + " and s.destination_id = g.destination_id and s.object = g.object and a.remote_id = g.remote_id");
        }
        template.update("""
                update record_state s set record_id = null, input_fingerprint = 0, sent_fingerprint = 0, state = 0, state_reason = '',
                  recheck_at = null
                from gone_record g where s.route_id = g.route_id and s.ordinal = g.ordinal
                """);
        count(counts, "records known at destinations", """
                delete from destination_record d using gone_there g where d.id = g.id
                  and not exists (select from record_state s where s.record_id = d.id)
                """);
        template.update(
                "delete from address_trace t using gone_record g where t.route_id = g.route_id and t.ordinal = g.ordinal");
        template.update("delete from address_trace t using gone_address a where t.address = a.address");
        count(counts, "records that routes met", """
                update route_record r set source_key = '', label = '%s', key_high = (random() * 9e18)::bigint,
                  key_low = (random() * 9e18)::bigint
                from gone_record g where r.route_id = g.route_id and r.ordinal = g.ordinal
                """.formatted(ERASED));
    }

    /** Rows that were kept as examples of a route, and what people decided about records. */
    private void besides(Map<String, Long> counts) {
        // Results are there for an hour and can be asked for again; whose records they show is not looked through.
        count(counts, "results of what-if questions, of anybody", "delete from job where state <> 'UNDER_WAY'");
        long examples = 0;
        for (long route : routes()) {
            Datasets.Dataset dataset = datasets.get(jdbc.sql("select dataset_id from route where id = ?")
                    .param(route)
                    .query(Long.class)
                    .single());
            Columns columns = new Columns(
                    datasets.version(dataset.id(), dataset.latestVersion()).columns());
            List<String> gone = jdbc.sql("select key from gone_key where dataset_id = ?")
                    .param(dataset.id())
                    .query(String.class)
                    .list();
            examples += jdbc
                    .sql("select id, cells from golden_example where route_id = ?")
                    .param(route)
                    .query((row, number) -> Map.entry(row.getLong("id"), cells(row.getString("cells"))))
                    .list()
                    .stream()
                    .filter(one -> Row.of(columns, one.getValue())
                            .key()
                            .filter(gone::contains)
                            .isPresent())
                    .mapToLong(one -> jdbc.sql("delete from golden_example where id = ?")
                            .param(one.getKey())
                            .update())
                    .sum();
        }
        counts.put("pinned examples", examples);
        count(counts, "decisions about pairs of records", """
                delete from identity_pin p using gone_key k where p.one_dataset = k.dataset_id and p.one_key = k.key
                  or p.other_dataset = k.dataset_id and p.other_key = k.key
                """);
    }

    @SuppressWarnings("unchecked")
    private Map<String, String> cells(String text) {
        return json.read(text, Map.class);
    }

    private void derived(long person, Map<String, Long> counts) {
        long ofEvents = 0;
        for (EventSets.EventSet set : events.all()) {
            String whose =
                    " where record_no in (select record_no from audience.record where person_id = " + person + ")";
            ofEvents += template.update("delete from " + set.table() + whose);
            template.update("delete from " + set.sample() + whose);
        }
        counts.put("events", ofEvents);
        long values = 0;
        for (Measures.PersonMeasure measure : measures.all()) {
            values += template.update("delete from " + measure.table() + " where person_id = ?", person);
        }
        counts.put("values of measures", values);
        for (String table : List.of("audience.people_sample", "audience.record_sample", "audience.person_base")) {
            if (exists(table)) {
                template.update("delete from " + table + " where person_id = ?", person);
            }
        }
        template.update("delete from audience.record where person_id = ?", person);
        count(counts, "stays in audiences", "delete from audience_member where person_id = " + person);
        count(
                counts,
                "consents",
                "delete from consent_record where person_id = " + person
                        + " or address_hash in (select hash from person_address"
                        + " a where a.person_id = " + person
                        + " and not exists (select from person_address o where o.hash = a.hash and o.person_id <> a.person_id))");
        template.update("delete from person_message where person_id = ?", person);
        template.update("delete from consent_answer where person_id = ?", person);
        template.update("delete from person_address where person_id = ?", person);
    }

    private boolean exists(String table) {
        return jdbc.sql("select to_regclass(?) is not null")
                .param(table)
                .query(Boolean.class)
                .single();
    }

    private void person(long person, Map<String, Long> counts) {
        count(
                counts,
                "pieces of evidence about pairs of records",
                "delete from identity_link where person_id = " + person + " or other_person_id = " + person);
        count(counts, "records", "delete from identity_record where person_id = " + person);
        count(
                counts,
                "entries of the history",
                "delete from person_event where person_id = " + person + " or other_id = " + person);
        template.update("delete from retired_person where into_id = ?", person);
        count(counts, "person", "delete from person where id = " + person);
    }

    private void count(Map<String, Long> counts, String what, String sql) {
        counts.put(what, (long) template.update(sql));
    }
}

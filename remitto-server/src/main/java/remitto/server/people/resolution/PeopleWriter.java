package remitto.server.people.resolution;

import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.Groups;
import remitto.core.identity.record.Links;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.server.people.EntityType;
import remitto.server.people.source.PersonRecords;
import remitto.server.platform.CopyParts;
import remitto.server.platform.CopyText;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;

/** Writes what a run found in place of what was known, touching only what changed. Part of the caller's transaction. */
@Component
class PeopleWriter {
    private static final String LINKS = "identity_link (about, one_dataset, one_key, other_dataset, other_key,"
            + " person_id, other_person_id, weight, rule, used, reason, ledger)";

    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final Json json;
    private final Clock clock;

    PeopleWriter(JdbcClient jdbc, JdbcTemplate template, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.template = template;
        this.json = json;
        this.clock = clock;
    }

    /** @param affected persons that are written again, or that are no more */
    void write(FreshPeople fresh, KeptValues kept, Scorer scorer, Set<Long> affected) {
        persons(fresh, kept, affected);
        records(fresh);
        links(fresh, scorer);
    }

    private void persons(FreshPeople fresh, KeptValues kept, Set<Long> affected) {
        template.execute("create temp table person_fresh (id bigint, label text, records int, kept jsonb,"
                + " attributes jsonb, keys jsonb, expires_at timestamptz) on commit drop");
        String into = "person_fresh (id, label, records, kept, attributes, keys, expires_at)";
        CopyParts parts = new CopyParts(template, into);
        List<Long> nobody = new ArrayList<>();
        for (long id : affected) {
            List<Integer> records = fresh.persons().get(id);
            if (records == null) {
                nobody.add(id);
                continue;
            }
            KeptValues.Kept one = kept.of(records);
            parts.row()
                    .number(id)
                    .text(label(fresh, one, records.get(0)))
                    .number(records.size())
                    .text(json.write(one.values()))
                    .text(json.write(one.attributes()))
                    .text(json.write(keys(fresh, records)))
                    .time(one.expires())
                    .endRow();
        }
        parts.end();
        jdbc.sql("""
                        insert into person (id, about, label, records, kept, attributes, keys, expires_at, since, changed_at)
                        select id, :about, label, records, kept, attributes, keys, expires_at, :now, :now from person_fresh
                        on conflict (id) do update set label = excluded.label, records = excluded.records,
                          kept = excluded.kept, attributes = excluded.attributes, keys = excluded.keys,
                          expires_at = excluded.expires_at,
                          changed_at = case when (person.label, person.attributes, person.keys)
                            is distinct from (excluded.label, excluded.attributes, excluded.keys)
                            then excluded.changed_at else person.changed_at end
                        """)
                .param("about", fresh.entityType().name())
                .param("now", Rows.time(clock.instant()))
                .update();
        jdbc.sql("delete from person where id = any(?)")
                .param(nobody.toArray(Long[]::new))
                .update();
    }

    private static Map<String, List<String>> keys(FreshPeople fresh, List<Integer> records) {
        Map<String, List<String>> keys = new TreeMap<>();
        for (int record : records) {
            RecordRef ref = fresh.table().ref(record);
            keys.computeIfAbsent(ref.source(), source -> new ArrayList<>()).add(ref.key());
        }
        return keys;
    }

    private static String label(FreshPeople fresh, KeptValues.Kept kept, int first) {
        Map<String, String> values = kept.attributes();
        String name = (values.getOrDefault("given_name", "") + " " + values.getOrDefault("family_name", "")).strip();
        return Optional.of(name)
                .filter(text -> !text.isEmpty())
                .or(() -> Optional.ofNullable(values.get("company")))
                .or(() -> Optional.ofNullable(values.get("email")))
                .orElseGet(() -> fresh.table().ref(first).key());
    }

    private void records(FreshPeople fresh) {
        Map<String, Long> companies = new HashMap<>();
        fresh.read().sources().forEach(source -> source.belongsTo()
                .ifPresent(company -> companies.put(Long.toString(source.datasetId()), company.datasetId())));
        template.execute("create temp table record_fresh (like identity_record including defaults) on commit drop");
        RecordTable table = fresh.read().table();
        CopyParts parts = new CopyParts(
                template,
                "record_fresh (about, dataset_id, key, person_id, cells, search, fingerprint, normalised,"
                        + " signature, company_dataset, company_key)");
        BitSet rewritten = fresh.rewritten();
        for (int record = rewritten.nextSetBit(0); record >= 0; record = rewritten.nextSetBit(record + 1)) {
            RecordRef ref = table.ref(record);
            PersonRecords.Said said = fresh.read().said().get(ref);
            List<String> normalised = new ArrayList<>();
            for (int a = 0; a < table.attributes().size(); a++) {
                normalised.add(table.value(a, record));
            }
            List<String> search = new ArrayList<>(said.cells().values());
            search.addAll(normalised);
            Optional<Long> company = said.company().map(key -> companies.getOrDefault(ref.source(), 0L));
            CopyText row = parts.row()
                    .text(fresh.entityType().name())
                    .number(Long.parseLong(ref.source()))
                    .text(ref.key())
                    .number(fresh.assigned().ids()[record])
                    .text(json.write(said.cells()))
                    .text(String.join(" ", search).toLowerCase(Locale.ROOT))
                    .number(said.fingerprint())
                    .text(array(normalised))
                    .number(fresh.resolution().found().signatures()[record]);
            company.ifPresentOrElse(row::number, row::none);
            row.text(said.company().orElse("")).endRow();
        }
        parts.end();
        template.execute("""
                insert into identity_record (about, dataset_id, key, person_id, cells, search, fingerprint, normalised, signature,
                  company_dataset, company_key)
                select about, dataset_id, key, person_id, cells, search, fingerprint, normalised, signature, company_dataset,
                  company_key from record_fresh
                on conflict (dataset_id, key) do update set about = excluded.about, person_id = excluded.person_id,
                  cells = excluded.cells, search = excluded.search, fingerprint = excluded.fingerprint,
                  normalised = excluded.normalised, signature = excluded.signature, company_dataset = excluded.company_dataset,
                  company_key = excluded.company_key
                """);
        fresh.gone().forEach(ref -> jdbc.sql("delete from identity_record where dataset_id = ? and key = ?")
                .params(Long.parseLong(ref.source()), ref.key())
                .update());
    }

    /** A text array as PostgreSQL spells it. */
    private static String array(List<String> texts) {
        StringBuilder out = new StringBuilder("{");
        for (String text : texts) {
            out.append(out.length() > 1 ? "," : "")
                    .append('"')
                    .append(text.replace("\\", "\\\\").replace("\"", "\\\""))
                    .append('"');
        }
        return out.append('}').toString();
    }

    private void links(FreshPeople fresh, Scorer scorer) {
        RecordTable table = fresh.table();
        BitSet judged = fresh.judged();
        if (judged.cardinality() == table.size()) {
            jdbc.sql("delete from identity_link where about = ?")
                    .param(fresh.entityType().name())
                    .update();
        } else {
            forget(fresh, judged);
        }
        Links links = fresh.resolution().found().links();
        Map<Integer, String> reasons = new HashMap<>();
        for (Groups.Refused refused : fresh.resolution().groups().refused()) {
            reasons.put(refused.link(), refused.reason().words());
        }
        CopyParts parts = new CopyParts(template, LINKS);
        for (int link = 0; link < links.size(); link++) {
            if (!judged.get(links.one(link)) && !judged.get(links.other(link))) {
                continue;
            }
            RecordRef one = table.ref(links.one(link));
            RecordRef other = table.ref(links.other(link));
            List<Weights.LedgerEntry> ledger = scorer.ledger(links.one(link), links.other(link));
            parts.row()
                    .text(fresh.entityType().name())
                    .number(Long.parseLong(one.source()))
                    .text(one.key())
                    .number(Long.parseLong(other.source()))
                    .text(other.key())
                    .number(fresh.assigned().ids()[links.one(link)])
                    .number(fresh.assigned().ids()[links.other(link)])
                    .text(Double.toString(links.weight(link)))
                    .number(links.rule(link))
                    .truth(fresh.resolution().groups().used()[link])
                    .text(reasons.getOrDefault(link, ""))
                    .text(json.write(ledger))
                    .endRow();
        }
        parts.end();
    }

    private void forget(FreshPeople fresh, BitSet judged) {
        template.execute("create temp table judged_record (dataset_id bigint, key text) on commit drop");
        CopyParts parts = new CopyParts(template, "judged_record (dataset_id, key)");
        judged.stream().forEach(record -> put(parts, fresh.table().ref(record)));
        fresh.gone().forEach(ref -> put(parts, ref));
        parts.end();
        template.execute("analyze judged_record");
        template.execute("delete from identity_link l using judged_record r"
                + " where l.one_dataset = r.dataset_id and l.one_key = r.key");
        template.execute("delete from identity_link l using judged_record r"
                + " where l.other_dataset = r.dataset_id and l.other_key = r.key");
    }

    private static void put(CopyParts parts, RecordRef ref) {
        parts.row().number(Long.parseLong(ref.source())).text(ref.key()).endRow();
    }

    /** Ids that are nobody's any more lead to whom they became, also those that were retired before. */
    void retire(long runId, EntityType entityType, Map<Long, Long> retired) {
        retired.forEach((old, now) -> {
            jdbc.sql("update retired_person set into_id = ? where into_id = ?")
                    .params(now, old)
                    .update();
            jdbc.sql("insert into retired_person (id, into_id, run_id, about) values (?, ?, ?, ?)")
                    .params(old, now, runId, entityType.name())
                    .update();
        });
    }
}

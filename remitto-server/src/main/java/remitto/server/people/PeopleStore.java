package remitto.server.people;

import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.identity.Links;
import remitto.core.identity.RecordRef;
import remitto.core.identity.RecordTable;
import remitto.core.identity.Resolution;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.Groups;
import remitto.core.identity.group.PersonIds;
import remitto.server.platform.CopyText;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Writes persons, their records and what holds them together. */
@Component
class PeopleStore {
    private static final int PART = 5_000;

    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final TransactionTemplate transactions;
    private final Json json;
    private final Clock clock;

    PeopleStore(JdbcClient jdbc, JdbcTemplate template, TransactionTemplate transactions, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.template = template;
        this.transactions = transactions;
        this.json = json;
        this.clock = clock;
    }

    /** What a run found. @param persons records by person, in order */
    record Fresh(
            PersonRecords.Read read,
            Resolution resolution,
            PersonIds.Assigned assigned,
            Map<Long, List<Integer>> persons,
            Scorer scorer,
            KeptValues kept) {}

    Map<RecordRef, Long> personsByRecord() {
        Map<RecordRef, Long> persons = new HashMap<>();
        Map<Long, String> names = new HashMap<>();
        jdbc.sql("select dataset_id, key, person_id from identity_record").query(row -> {
            String source = names.computeIfAbsent(row.getLong("dataset_id"), id -> Long.toString(id));
            persons.put(new RecordRef(source, row.getString("key")), row.getLong("person_id"));
        });
        return persons;
    }

    /** The first id that was never given out. */
    long nextPerson() {
        return jdbc.sql("""
                        select greatest((select coalesce(max(id), 0) from person),
                          (select coalesce(max(id), 0) from retired_person)) + 1
                        """).query(Long.class).single();
    }

    /** @throws Problem if the run was given up meanwhile */
    void replace(long runId, Fresh fresh, PeopleSummary summary) {
        transactions.executeWithoutResult(status -> {
            template.execute("delete from person; delete from identity_record; delete from identity_link");
            persons(fresh);
            records(fresh);
            links(fresh);
            retire(runId, fresh);
            int closed = jdbc.sql("""
                            update identity_run set finished_at = ?, summary = ?::jsonb where id = ? and finished_at is null
                            """)
                    .params(Rows.time(clock.instant()), json.write(summary), runId)
                    .update();
            if (closed == 0) {
                throw Problem.conflict("The run was given up meanwhile.");
            }
        });
    }

    private void persons(Fresh fresh) {
        CopyText copy = new CopyText();
        int rows = 0;
        for (Map.Entry<Long, List<Integer>> person : fresh.persons().entrySet()) {
            List<KeptValues.KeptValue> kept = fresh.kept().of(person.getValue());
            copy.number(person.getKey())
                    .text(label(
                            kept,
                            fresh.resolution().table().ref(person.getValue().get(0))))
                    .number(person.getValue().size())
                    .text(json.write(kept))
                    .endRow();
            if (++rows % PART == 0) {
                copy.load(template, "person (id, label, records, kept)");
                copy = new CopyText();
            }
        }
        copy.load(template, "person (id, label, records, kept)");
    }

    private static String label(List<KeptValues.KeptValue> kept, RecordRef first) {
        Map<String, String> values = new HashMap<>();
        kept.forEach(one -> values.put(one.attribute(), one.value()));
        String name = (values.getOrDefault("given_name", "") + " " + values.getOrDefault("family_name", "")).strip();
        return name.isEmpty() ? values.getOrDefault("email", first.key()) : name;
    }

    private void records(Fresh fresh) {
        RecordTable table = fresh.read().table();
        CopyText copy = new CopyText();
        for (int record = 0; record < table.size(); record++) {
            RecordRef ref = table.ref(record);
            Map<String, String> cells = fresh.read().said().get(ref).cells();
            List<String> search = new ArrayList<>(cells.values());
            for (int a = 0; a < table.attributes().size(); a++) {
                search.add(table.value(a, record));
            }
            copy.number(Long.parseLong(ref.source()))
                    .text(ref.key())
                    .number(fresh.assigned().ids()[record])
                    .text(json.write(cells))
                    .text(String.join(" ", search).toLowerCase(Locale.ROOT))
                    .endRow();
            if (record % PART == PART - 1) {
                copy.load(template, "identity_record (dataset_id, key, person_id, cells, search)");
                copy = new CopyText();
            }
        }
        copy.load(template, "identity_record (dataset_id, key, person_id, cells, search)");
    }

    private void links(Fresh fresh) {
        RecordTable table = fresh.resolution().table();
        Links links = fresh.resolution().found().links();
        Map<Integer, String> reasons = new HashMap<>();
        for (Groups.Refused refused : fresh.resolution().groups().refused()) {
            reasons.put(refused.link(), refused.reason().words());
        }
        String into = "identity_link (one_dataset, one_key, other_dataset, other_key, person_id, other_person_id,"
                + " weight, used, reason, ledger)";
        CopyText copy = new CopyText();
        for (int link = 0; link < links.size(); link++) {
            RecordRef one = table.ref(links.one(link));
            RecordRef other = table.ref(links.other(link));
            List<Weights.LedgerEntry> ledger = fresh.scorer().ledger(links.one(link), links.other(link));
            copy.number(Long.parseLong(one.source()))
                    .text(one.key())
                    .number(Long.parseLong(other.source()))
                    .text(other.key())
                    .number(fresh.assigned().ids()[links.one(link)])
                    .number(fresh.assigned().ids()[links.other(link)])
                    .text(Double.toString(links.weight(link)))
                    .truth(fresh.resolution().groups().used()[link])
                    .text(reasons.getOrDefault(link, ""))
                    .text(json.write(ledger))
                    .endRow();
            if (link % PART == PART - 1) {
                copy.load(template, into);
                copy = new CopyText();
            }
        }
        copy.load(template, into);
    }

    /** Ids that are nobody's any more lead to whom they became, also those that were retired before. */
    private void retire(long runId, Fresh fresh) {
        fresh.assigned().retired().forEach((old, now) -> {
            jdbc.sql("update retired_person set into_id = ? where into_id = ?")
                    .params(now, old)
                    .update();
            jdbc.sql("insert into retired_person (id, into_id, run_id) values (?, ?, ?)")
                    .params(old, now, runId)
                    .update();
        });
    }
}

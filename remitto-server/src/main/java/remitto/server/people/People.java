package remitto.server.people;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.identity.evidence.Weights;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;

/** Finds people, and tells all that is known of one. */
@Component
class People {
    private static final int MOST = 50;

    private final JdbcClient jdbc;
    private final Json json;

    People(JdbcClient jdbc, Json json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    record PersonRow(long id, String label, int records) {}

    /** A record of a person. @param cells by attribute, as the source spells it */
    record PersonRecord(long datasetId, String dataset, String key, Map<String, String> cells) {}

    /** Two records, and what speaks for and against their being one person. @param reason why it was not followed; blank */
    record PairEvidence(
            Corrections.PersonRecordRef one,
            Corrections.PersonRecordRef other,
            double weight,
            boolean used,
            String reason,
            List<Weights.LedgerEntry> ledger) {}

    /** @param formerly ids that this person's records had before */
    record PersonView(
            long id,
            String label,
            List<KeptValues.KeptValue> kept,
            List<PersonRecord> records,
            List<PairEvidence> evidence,
            List<Long> formerly) {}

    /** A pair somebody has to decide. */
    record ReviewPair(PersonRecord one, long onePerson, PersonRecord other, long otherPerson, PairEvidence evidence) {}

    /** By any source's id, an e-mail address, a phone number, or parts of a name; all of the words must be met. */
    List<PersonRow> find(String text) {
        List<String> words = Arrays.stream(text.toLowerCase(Locale.ROOT).split("\\s+"))
                .filter(word -> !word.isEmpty())
                .map(word ->
                        "%" + word.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%")
                .toList();
        if (words.isEmpty()) {
            return jdbc.sql("select id, label, records from person order by records desc, id limit " + MOST)
                    .query((row, number) ->
                            new PersonRow(row.getLong("id"), row.getString("label"), row.getInt("records")))
                    .list();
        }
        return jdbc.sql("""
                        select id, label, records from person where id in (
                          select person_id from identity_record where search like all (:words) or key = :text limit 500)
                          or id = (select into_id from retired_person where id::text = :text)
                        order by records desc, label, id limit
                        """ + MOST)
                .param("words", words.toArray(String[]::new))
                .param("text", text.strip())
                .query((row, number) -> new PersonRow(row.getLong("id"), row.getString("label"), row.getInt("records")))
                .list();
    }

    /** @param id also one that was retired; it leads to the person it became */
    PersonView get(long id) {
        long now = jdbc.sql("select into_id from retired_person where id = ?")
                .param(id)
                .query(Long.class)
                .optional()
                .orElse(id);
        return jdbc.sql("select id, label, kept from person where id = ?")
                .param(now)
                .query((row, number) -> new PersonView(
                        row.getLong("id"),
                        row.getString("label"),
                        Arrays.asList(json.read(row.getString("kept"), KeptValues.KeptValue[].class)),
                        records(now),
                        evidence(now),
                        jdbc.sql("select id from retired_person where into_id = ? order by id")
                                .param(now)
                                .query(Long.class)
                                .list()))
                .optional()
                .orElseThrow(() -> Problem.notFound("person " + id));
    }

    private List<PersonRecord> records(long person) {
        return jdbc.sql("""
                        select r.dataset_id, d.name, r.key, r.cells from identity_record r
                        join dataset d on d.id = r.dataset_id
                        left join identity_source s on s.dataset_id = r.dataset_id
                        where r.person_id = ? order by s.place, r.key
                        """)
                .param(person)
                .query((row, number) -> record(row, ""))
                .list();
    }

    @SuppressWarnings("unchecked")
    private PersonRecord record(java.sql.ResultSet row, String prefix) throws java.sql.SQLException {
        return new PersonRecord(
                row.getLong(prefix + "dataset_id"),
                row.getString(prefix + "name"),
                row.getString(prefix + "key"),
                json.read(row.getString(prefix + "cells"), Map.class));
    }

    private List<PairEvidence> evidence(long person) {
        return jdbc.sql("""
                        select * from identity_link where person_id = :id or other_person_id = :id
                        order by used desc, weight desc limit 200
                        """)
                .param("id", person)
                .query((row, number) -> pair(row))
                .list();
    }

    private PairEvidence pair(java.sql.ResultSet row) throws java.sql.SQLException {
        return new PairEvidence(
                new Corrections.PersonRecordRef(row.getLong("one_dataset"), row.getString("one_key")),
                new Corrections.PersonRecordRef(row.getLong("other_dataset"), row.getString("other_key")),
                row.getDouble("weight"),
                row.getBoolean("used"),
                row.getString("reason"),
                Arrays.asList(json.read(row.getString("ledger"), Weights.LedgerEntry[].class)));
    }

    /** Pairs that nobody decided yet, the strongest first. */
    List<ReviewPair> review(int most) {
        return jdbc.sql("""
                        select l.*, a.dataset_id as a_dataset_id, da.name as a_name, a.key as a_key, a.cells as a_cells,
                               b.dataset_id as b_dataset_id, db.name as b_name, b.key as b_key, b.cells as b_cells
                        from identity_link l
                        join identity_record a on a.dataset_id = l.one_dataset and a.key = l.one_key
                        join identity_record b on b.dataset_id = l.other_dataset and b.key = l.other_key
                        join dataset da on da.id = a.dataset_id join dataset db on db.id = b.dataset_id
                        where not l.used and l.person_id <> l.other_person_id and not exists (
                          select 1 from identity_pin p
                          where (p.one_dataset, p.one_key, p.other_dataset, p.other_key)
                              = (l.one_dataset, l.one_key, l.other_dataset, l.other_key)
                            or (p.one_dataset, p.one_key, p.other_dataset, p.other_key)
                              = (l.other_dataset, l.other_key, l.one_dataset, l.one_key))
                        order by l.weight desc, l.one_dataset, l.one_key, l.other_dataset, l.other_key limit :most
                        """)
                .param("most", most)
                .query((row, number) -> new ReviewPair(
                        record(row, "a_"),
                        row.getLong("person_id"),
                        record(row, "b_"),
                        row.getLong("other_person_id"),
                        pair(row)))
                .list();
    }
}

package remitto.server.people.person;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.identity.evidence.Weights;
import remitto.server.people.EntityType;
import remitto.server.people.resolution.Corrections;
import remitto.server.people.resolution.KeptValues;
import remitto.server.people.resolution.PeopleCounts;
import remitto.server.people.resolution.PersonHistory;
import remitto.server.platform.Json;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Finds people, and tells all that is known of one. */
@Component
public class People {
    private static final int MOST = 50;

    private final JdbcClient jdbc;
    private final Json json;
    private final PersonHistory history;
    private final SentTo sent;

    People(JdbcClient jdbc, Json json, PersonHistory history, SentTo sent) {
        this.jdbc = jdbc;
        this.json = json;
        this.history = history;
        this.sent = sent;
    }

    /** A person in a list. */
    public record PersonRow(long id, @Personal String label, int records) {}

    /**
     * A record of a person.
     *
     * @param cells by attribute, as the source spells it
     */
    public record PersonRecord(
            long datasetId,
            String dataset,
            @Personal(Personal.Part.KEY) String key,
            @Personal Map<String, String> cells) {}

    /**
     * Two records, and what speaks for and against their being one person.
     *
     * @param reason why it was not followed; blank
     */
    public record PairEvidence(
            Corrections.PersonRecordRef one,
            Corrections.PersonRecordRef other,
            double weight,
            boolean used,
            String reason,
            List<Weights.LedgerEntry> ledger) {}

    /** A company that a person belongs to, or a person of a company. */
    record CompanyMembership(long id, @Personal String label) {}

    /**
     * A person with records, kept values, evidence and history.
     *
     * @param formerly ids that this person's records had before
     * @param belongs companies of a person, or persons of a company
     * @param sent what routes keep there of this person or of its records
     * @param unlinked routes whose rows cannot be linked to anybody, so that they may be this person's
     */
    public record PersonView(
            long id,
            EntityType entityType,
            @Personal String label,
            Instant since,
            Instant changedAt,
            List<KeptValues.KeptValue> kept,
            List<PersonRecord> records,
            List<PairEvidence> evidence,
            List<Long> formerly,
            List<CompanyMembership> belongs,
            List<SentTo.SentAs> sent,
            List<SentTo.UnlinkedRoute> unlinked,
            List<PersonHistory.PersonEvent> history) {
        /** The same with values as somebody is shown them. */
        PersonView shown(List<KeptValues.KeptValue> kept, List<PersonRecord> records) {
            return new PersonView(
                    id,
                    entityType,
                    label,
                    since,
                    changedAt,
                    kept,
                    records,
                    evidence,
                    formerly,
                    belongs,
                    sent,
                    unlinked,
                    history);
        }
    }

    /** A pair somebody has to decide. */
    public record ReviewPair(
            PersonRecord one, long onePerson, PersonRecord other, long otherPerson, PairEvidence evidence) {}

    /** By any source's id, an e-mail address, a phone number, or parts of a name; all of the words must be met. */
    public List<PersonRow> find(EntityType entityType, String text) {
        List<String> words = Arrays.stream(text.toLowerCase(Locale.ROOT).split("\\s+"))
                .filter(word -> !word.isEmpty())
                .map(word ->
                        "%" + word.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%")
                .toList();
        if (words.isEmpty()) {
            return jdbc.sql("select id, label, records from person where about = ? order by records desc, id limit "
                            + MOST)
                    .param(entityType.name())
                    .query((row, number) ->
                            new PersonRow(row.getLong("id"), row.getString("label"), row.getInt("records")))
                    .list();
        }
        return jdbc.sql("""
                        select id, label, records from person where about = :about and (id in (
                          select person_id from identity_record where about = :about
                            and (search like all (:words) or key = :text) limit 500)
                          or id = (select into_id from retired_person where id::text = :text) or id::text = :text)
                        order by records desc, label, id limit
                        """ + MOST)
                .param("about", entityType.name())
                .param("words", words.toArray(String[]::new))
                .param("text", text.strip())
                .query((row, number) -> new PersonRow(row.getLong("id"), row.getString("label"), row.getInt("records")))
                .list();
    }

    /** @param id also one that was retired; it leads to the person it became */
    public PersonView get(long id) {
        long now = jdbc.sql("select into_id from retired_person where id = ?")
                .param(id)
                .query(Long.class)
                .optional()
                .orElse(id);
        return jdbc.sql("select id, about, label, since, changed_at, kept from person where id = ?")
                .param(now)
                .query((row, number) -> new PersonView(
                        row.getLong("id"),
                        EntityType.valueOf(row.getString("about")),
                        row.getString("label"),
                        Rows.time(row, "since"),
                        Rows.time(row, "changed_at"),
                        Arrays.asList(json.read(row.getString("kept"), KeptValues.KeptValue[].class)),
                        records(now),
                        evidence(now),
                        jdbc.sql("select id from retired_person where into_id = ? order by id")
                                .param(now)
                                .query(Long.class)
                                .list(),
                        belongs(now, EntityType.valueOf(row.getString("about"))),
                        sent.sent(now),
                        sent.unlinked(),
                        history.of(now)))
                .optional()
                .orElseThrow(() -> Problem.notFound("person " + id));
    }

    private List<CompanyMembership> belongs(long id, EntityType entityType) {
        String companies = """
                select distinct c.id, c.label from identity_record r
                join identity_record k on k.dataset_id = r.company_dataset and k.key = r.company_key
                join person c on c.id = k.person_id where r.person_id = ? order by c.id limit 50
                """;
        String persons = """
                select distinct p.id, p.label from identity_record k
                join identity_record r on r.company_dataset = k.dataset_id and r.company_key = k.key
                join person p on p.id = r.person_id where k.person_id = ? order by p.id limit 50
                """;
        return jdbc.sql(entityType == EntityType.PERSON ? companies : persons)
                .param(id)
                .query((row, number) -> new CompanyMembership(row.getLong("id"), row.getString("label")))
                .list();
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
    public List<ReviewPair> review(EntityType entityType, int most) {
        return jdbc.sql("""
                        select l.*, a.dataset_id as a_dataset_id, da.name as a_name, a.key as a_key, a.cells as a_cells,
                               b.dataset_id as b_dataset_id, db.name as b_name, b.key as b_key, b.cells as b_cells
                        from identity_link l
                        join identity_record a on a.dataset_id = l.one_dataset and a.key = l.one_key
                        join identity_record b on b.dataset_id = l.other_dataset and b.key = l.other_key
                        join dataset da on da.id = a.dataset_id join dataset db on db.id = b.dataset_id
                        where
                        """ + PeopleCounts.OPEN + """
                        order by l.weight desc, l.one_dataset, l.one_key, l.other_dataset, l.other_key limit :most
                        """)
                .param("about", entityType.name())
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

package remitto.server.consent;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.identity.record.Attribute;
import remitto.server.people.EntityType;
import remitto.server.people.person.PersonFacts;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** What is kept of consents, and what the consent attributes of people's records are about. */
@Component
class Consents {
    private final JdbcClient jdbc;
    private final PersonFacts facts;
    private final Clock clock;

    Consents(JdbcClient jdbc, PersonFacts facts, Clock clock) {
        this.jdbc = jdbc;
        this.facts = facts;
        this.clock = clock;
    }

    /**
     * What a consent attribute is about.
     *
     * @param said whether somebody said so, or it is from the column name
     */
    record ConsentMeaning(String attribute, String purpose, String channel, boolean said) {}

    /**
     * Something that was said.
     *
     * @param origin where it is from, by name
     */
    record ConsentRecord(
            long id,
            String purpose,
            String channel,
            boolean yes,
            Optional<Long> personId,
            Optional<String> addressHash,
            Instant saidAt,
            Optional<Instant> expiresAt,
            @Personal(Personal.Part.IN_TEXT) String evidence,
            String origin,
            Instant recordedAt) {}

    /** Where a record is from: by hand or a destination, and its name. */
    record Origin(String kind, String name) {}

    /** Somebody, by id or by an address. */
    record Whom(Optional<Long> personId, Optional<String> addressHash) {}

    record Said(
            String purpose,
            String channel,
            boolean yes,
            Instant saidAt,
            Optional<Instant> expiresAt,
            String evidence) {}

    /** By attribute; what nobody said is taken from the name, and by e-mail. */
    List<ConsentMeaning> meanings() {
        Map<String, ConsentMeaning> said = new LinkedHashMap<>();
        jdbc.sql("select * from consent_meaning").query(row -> {
            said.put(
                    row.getString("attribute"),
                    new ConsentMeaning(
                            row.getString("attribute"), row.getString("purpose"), row.getString("channel"), true));
        });
        return facts.kept(EntityType.PERSON).stream()
                .filter(one -> one.kind() == Attribute.Kind.CONSENT)
                .map(one -> said.getOrDefault(
                        one.name(),
                        new ConsentMeaning(
                                one.name(),
                                one.name()
                                        .replaceAll("_?consent_?", " ")
                                        .replace('_', ' ')
                                        .strip(),
                                "email",
                                false)))
                .toList();
    }

    void mean(ConsentMeaning meaning) {
        if (!meaning.purpose().matches("[a-z][a-z0-9 ]*") || !meaning.channel().matches("[a-z][a-z0-9 ]*")) {
            throw Problem.invalid("Purpose and channel are words in small letters, such as newsletter and email.");
        }
        jdbc.sql("""
                        insert into consent_meaning (attribute, purpose, channel) values (?, ?, ?)
                        on conflict (attribute) do update set purpose = excluded.purpose, channel = excluded.channel
                        """)
                .params(meaning.attribute(), meaning.purpose(), meaning.channel())
                .update();
    }

    void add(Whom whom, Said said, Origin origin) {
        jdbc.sql("""
                        insert into consent_record (purpose, channel, answer, person_id, address_hash, said_at, expires_at,
                          evidence, origin, origin_name, recorded_at)
                        values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
                        """)
                .params(
                        said.purpose(),
                        said.channel(),
                        said.yes() ? "YES" : "NO",
                        whom.personId().orElse(null),
                        whom.addressHash().orElse(null),
                        Rows.time(said.saidAt()),
                        said.expiresAt().map(Rows::time).orElse(null),
                        said.evidence(),
                        origin.kind(),
                        origin.name(),
                        Rows.time(clock.instant()))
                .update();
    }

    /** Of a person, by id and by all of the person's addresses; the latest first. */
    List<ConsentRecord> of(long person) {
        return jdbc.sql("""
                        select * from consent_record where person_id = :person
                          or address_hash in (select hash from person_address where person_id = :person) order by id desc
                        """)
                .param("person", person)
                .query((row, number) -> read(row))
                .list();
    }

    List<ConsentRecord> latest() {
        return jdbc.sql("select * from consent_record order by id desc limit 50")
                .query((row, number) -> read(row))
                .list();
    }

    private static ConsentRecord read(ResultSet row) throws SQLException {
        return new ConsentRecord(
                row.getLong("id"),
                row.getString("purpose"),
                row.getString("channel"),
                row.getString("answer").equals("YES"),
                Rows.optionalLong(row, "person_id"),
                Rows.optionalText(row, "address_hash"),
                Rows.time(row, "said_at"),
                Rows.optionalTime(row, "expires_at"),
                row.getString("evidence"),
                row.getString("origin_name"),
                Rows.time(row, "recorded_at"));
    }

    /** The answer that counts of a person, for each purpose and channel somebody asked about. */
    record ConsentAnswer(
            String purpose,
            String channel,
            boolean yes,
            Optional<Instant> saidAt,
            Optional<Instant> expiresAt,
            String reason) {}

    List<ConsentAnswer> answers(long person) {
        return jdbc.sql("select * from consent_answer where person_id = ? order by purpose, channel")
                .param(person)
                .query((row, number) -> new ConsentAnswer(
                        row.getString("purpose"),
                        row.getString("channel"),
                        row.getString("answer").equals("YES"),
                        Rows.optionalTime(row, "said_at"),
                        Rows.optionalTime(row, "expires_at"),
                        row.getString("reason")))
                .list();
    }

    /** How many said what. */
    record PurposeCounts(String purpose, String channel, long yes, long no, long notAsked, String column) {}

    List<PurposeCounts> counts() {
        long people = jdbc.sql("select count(*) from person where about = 'PERSON'")
                .query(Long.class)
                .single();
        return jdbc.sql("""
                        select purpose, channel, count(*) filter (where answer = 'YES') as yes,
                          count(*) filter (where answer = 'NO') as no from consent_answer group by 1, 2 order by 1, 2
                        """)
                .query((row, number) -> new PurposeCounts(
                        row.getString("purpose"),
                        row.getString("channel"),
                        row.getLong("yes"),
                        row.getLong("no"),
                        people - row.getLong("yes") - row.getLong("no"),
                        column(row.getString("purpose"), row.getString("channel"))))
                .list();
    }

    /** The column of datasets over people that says it. */
    static String column(String purpose, String channel) {
        return ("may_" + purpose + "_" + channel).replace(' ', '_');
    }
}

package remitto.server.consent;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.context.event.EventListener;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.survivorship.ConsentOrder;
import remitto.core.identity.survivorship.ConsentSaid;
import remitto.server.people.EntityType;
import remitto.server.people.person.PersonFacts;
import remitto.server.people.resolution.PeopleJoined;
import remitto.server.platform.Rows;

/** Works out which answer counts for each person, purpose and channel, of all that was said anywhere. */
@Component
public class ConsentKeeper {
    private final Consents consents;
    private final PersonFacts facts;
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final TransactionTemplate transactions;
    private final Clock clock;

    ConsentKeeper(
            Consents consents,
            PersonFacts facts,
            JdbcClient jdbc,
            JdbcTemplate template,
            TransactionTemplate transactions,
            Clock clock) {
        this.consents = consents;
        this.facts = facts;
        this.jdbc = jdbc;
        this.template = template;
        this.transactions = transactions;
        this.clock = clock;
    }

    /** @return how many people's answer to something is another one than before */
    public long refresh() {
        return transactions.execute(status -> {
            template.execute("set local work_mem = '128MB'");
            template.execute("select pg_advisory_xact_lock(7041891)");
            Instant now = clock.instant();
            template.execute("create temp table fresh_answer (like consent_answer including all) on commit drop");
            consents.meanings().forEach(meaning -> kept(meaning, now));
            said(now);
            return write();
        });
    }

    /** Normalised values stand in the order of the attributes a matching run was made with, so they are looked at right after it. */
    @EventListener
    @Order(Ordered.HIGHEST_PRECEDENCE)
    void joined(PeopleJoined joined) {
        if (joined.entityType() == EntityType.PERSON) {
            transactions.executeWithoutResult(status -> addresses());
        }
    }

    private void addresses() {
        template.execute("select pg_advisory_xact_lock(7041891)");
        template.execute("create temp table fresh_address (like person_address including all) on commit drop");
        for (PersonFacts.AddressPlace place : facts.addresses(EntityType.PERSON)) {
            jdbc.sql(
                            "insert into fresh_address select distinct r.person_id, :kind, encode(sha256(convert_to(r.normalised[:place],"
                                    + " 'UTF8')), 'hex') from identity_record r where r.about = 'PERSON' and r.normalised[:place] <> ''"
                                    + " on conflict do nothing")
                    .param("kind", place.kind().name())
                    .param("place", place.place())
                    .update();
        }
        template.execute("analyze fresh_address");
        template.execute("delete from person_address a where not exists (select from fresh_address f"
                + " where f.person_id = a.person_id and f.hash = a.hash)");
        template.execute("insert into person_address select * from fresh_address on conflict do nothing");
        template.execute("drop table fresh_address");
    }

    /** What people's records come to, as it was kept by the matching run; a yes that expired since is not asked. */
    private void kept(Consents.ConsentMeaning meaning, Instant now) {
        jdbc.sql("""
                        insert into fresh_answer (person_id, purpose, channel, answer, said_at, expires_at, reason)
                        select p.id, :purpose, :channel, upper(k ->> 'value'), (k ->> 'at')::timestamptz,
                          (k ->> 'expires')::timestamptz, k ->> 'reason'
                        from person p, jsonb_array_elements(p.kept) k
                        where p.about = 'PERSON' and k ->> 'attribute' = :attribute and k ->> 'value' in ('yes', 'no')
                          and (k ->> 'value' = 'no' or coalesce((k ->> 'expires')::timestamptz, 'infinity') > :now)
                        on conflict (person_id, purpose, channel) do update set answer = case
                          when fresh_answer.answer = 'NO' then 'NO' else excluded.answer end
                        """)
                .param("purpose", meaning.purpose())
                .param("channel", meaning.channel())
                .param("attribute", meaning.attribute())
                .param("now", Rows.time(now))
                .update();
    }

    private record AboutWhat(long person, String purpose, String channel) {}

    /** People of whom more was said than their records say: all of it together decides. */
    private void said(Instant now) {
        Map<AboutWhat, List<ConsentSaid>> all = new LinkedHashMap<>();
        Map<String, List<String>> attributes = new LinkedHashMap<>();
        consents.meanings().forEach(one -> attributes
                .computeIfAbsent(one.purpose() + "\n" + one.channel(), key -> new ArrayList<>())
                .add(one.attribute()));
        jdbc.sql("""
                        select distinct p.id as person, c.id, c.purpose, c.channel, c.answer, c.said_at, c.expires_at, c.evidence,
                          c.origin_name
                        from consent_record c
                        left join person_address a on a.hash = c.address_hash
                        join person p on p.id = coalesce(c.person_id, a.person_id) order by 1, 2
                        """).query(row -> {
            AboutWhat what = new AboutWhat(row.getLong("person"), row.getString("purpose"), row.getString("channel"));
            all.computeIfAbsent(what, key -> new ArrayList<>())
                    .add(new ConsentSaid(
                            new RecordRef("said", row.getString("id")),
                            row.getString("answer").equals("YES"),
                            Rows.optionalTime(row, "said_at"),
                            row.getString("evidence"),
                            Rows.optionalTime(row, "expires_at")));
        });
        all.forEach((what, said) -> {
            attributes
                    .getOrDefault(what.purpose() + "\n" + what.channel(), List.of())
                    .forEach(attribute -> kept(what.person(), attribute).ifPresent(said::add));
            jdbc.sql("delete from fresh_answer where person_id = ? and purpose = ? and channel = ?")
                    .params(what.person(), what.purpose(), what.channel())
                    .update();
            ConsentOrder.of(said, now)
                    .ifPresent(one -> jdbc.sql("insert into fresh_answer values (?, ?, ?, ?, ?, ?, ?)")
                            .params(
                                    what.person(),
                                    what.purpose(),
                                    what.channel(),
                                    one.said().yes() ? "YES" : "NO",
                                    one.said().at().map(Rows::time).orElse(null),
                                    one.said().expires().map(Rows::time).orElse(null),
                                    one.reason())
                            .update());
        });
    }

    private Optional<ConsentSaid> kept(long person, String attribute) {
        return jdbc.sql("""
                        select k ->> 'value' as value, (k ->> 'at')::timestamptz as at, coalesce(k ->> 'evidence', '') as evidence,
                          (k ->> 'expires')::timestamptz as expires
                        from person p, jsonb_array_elements(p.kept) k where p.id = ? and k ->> 'attribute' = ?
                        """)
                .params(person, attribute)
                .query((row, number) -> new ConsentSaid(
                        new RecordRef("records", attribute),
                        row.getString("value").equals("yes"),
                        Rows.optionalTime(row, "at"),
                        row.getString("evidence"),
                        Rows.optionalTime(row, "expires")))
                .optional();
    }

    private long write() {
        template.execute("analyze fresh_answer");
        long gone = template.update("delete from consent_answer c where not exists (select from fresh_answer f where"
                + " f.person_id = c.person_id and f.purpose = c.purpose and f.channel = c.channel)");
        long changed = template.update("""
                insert into consent_answer as c select * from fresh_answer f where not exists (select from consent_answer o
                  where o.person_id = f.person_id and o.purpose = f.purpose and o.channel = f.channel
                    and (o.answer, o.said_at, o.expires_at, o.reason)
                      is not distinct from (f.answer, f.said_at, f.expires_at, f.reason))
                on conflict (person_id, purpose, channel) do update set answer = excluded.answer,
                  said_at = excluded.said_at, expires_at = excluded.expires_at, reason = excluded.reason
                """);
        template.execute("drop table fresh_answer");
        return gone + changed;
    }
}

package remitto.server.footprint;

import java.util.List;
import java.util.TreeSet;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.identity.record.Attribute;
import remitto.server.people.EntityType;
import remitto.server.people.person.PersonFacts;
import remitto.server.trace.AddressTraces;

/**
 * The addresses of whomever somebody is, as they may stand in what was sent from datasets that say nothing of people: as spelled,
 * normalised, and hashed; in lower case. One that somebody else has too tells nothing, and is left out.
 */
@Component
class PersonTexts {
    private final JdbcClient jdbc;
    private final PersonFacts facts;

    PersonTexts(JdbcClient jdbc, PersonFacts facts) {
        this.jdbc = jdbc;
        this.facts = facts;
    }

    List<String> of(long person) {
        EntityType entityType = jdbc.sql("select about from person where id = ?")
                .param(person)
                .query((row, number) -> EntityType.valueOf(row.getString("about")))
                .optional()
                .orElse(EntityType.PERSON);
        TreeSet<String> texts = new TreeSet<>();
        for (PersonFacts.AddressPlace place : facts.addresses(entityType)) {
            String spelled =
                    place.kind() == Attribute.Kind.EMAIL ? "lower(btrim(r.cells ->> :attribute))" : "null::text";
            texts.addAll(jdbc.sql("""
                            with own as (
                              select %s as spelled, r.normalised[:place] as normalised,
                                encode(sha256(convert_to(r.normalised[:place], 'UTF8')), 'hex') as hash
                              from identity_record r where r.person_id = :person and r.normalised[:place] <> ''),
                            texts as (
                              select distinct v from own, unnest(array[spelled, lower(normalised), hash]) v
                              where not exists (
                                select from person_address a where a.hash = own.hash and a.person_id <> :person))
                            select v from texts where %s
                            """.formatted(spelled, AddressTraces.IS_ADDRESS))
                    .param("attribute", place.attribute())
                    .param("place", place.place())
                    .param("person", person)
                    .query(String.class)
                    .list());
        }
        return List.copyOf(texts);
    }
}

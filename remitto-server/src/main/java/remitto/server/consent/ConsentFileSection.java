package remitto.server.consent;

import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.people.person.PersonFileSection;

/** What a person agreed to and took back, and whether nothing is sent to an address of the person. */
@Component
class ConsentFileSection implements PersonFileSection {
    private final Consents consents;
    private final JdbcClient jdbc;

    ConsentFileSection(Consents consents, JdbcClient jdbc) {
        this.consents = consents;
        this.jdbc = jdbc;
    }

    @Override
    public int place() {
        return 1;
    }

    @Override
    public List<FileTable> of(long person) {
        return List.of(
                new FileTable(
                        "Consents that count",
                        "Of all that was said, which answer counts for each purpose and channel.",
                        List.of("purpose", "channel", "answer", "said at", "expires", "why this one"),
                        consents.answers(person).stream()
                                .map(one -> List.of(
                                        one.purpose(),
                                        one.channel(),
                                        one.yes() ? "yes" : "no",
                                        one.saidAt().map(Object::toString).orElse(""),
                                        one.expiresAt().map(Object::toString).orElse(""),
                                        one.reason()))
                                .toList()),
                new FileTable(
                        "What was said",
                        "Kept as evidence of consent, besides what the records say.",
                        List.of("purpose", "channel", "answer", "said at", "from", "evidence"),
                        consents.of(person).stream()
                                .map(one -> List.of(
                                        one.purpose(),
                                        one.channel(),
                                        one.yes() ? "yes" : "no",
                                        one.saidAt().toString(),
                                        one.origin(),
                                        one.evidence()))
                                .toList()),
                new FileTable(
                        "Suppression",
                        "Addresses that nothing is sent to, as hashes.",
                        List.of("SHA-256 of the address", "reason", "since"),
                        jdbc.sql("""
                                        select s.hash, s.reason, s.added_at from suppression s
                                        join person_address a on a.hash = s.hash where a.person_id = ? order by 3
                                        """)
                                .param(person)
                                .query((row, number) -> List.of(
                                        row.getString("hash"), row.getString("reason"), row.getString("added_at")))
                                .list()));
    }
}

package remitto.server.people.rule;

import org.springframework.stereotype.Component;
import remitto.server.journal.Journal;
import remitto.server.people.EntityType;

/** Saving match rules and putting them in service: written in the journal, by whatever way somebody asks for it. */
@Component
public class MatchRuleKeeping {
    private final PeopleRuleVersions versions;
    private final Journal journal;

    MatchRuleKeeping(PeopleRuleVersions versions, Journal journal) {
        this.versions = versions;
        this.journal = journal;
    }

    public void save(EntityType entityType, int basedOn, PeopleRules rules, String who, String note) {
        int number = versions.save(entityType, basedOn, rules, who, note);
        write(who, "saved match rules", entityType, number);
    }

    public void putInService(EntityType entityType, int number, String who) {
        versions.putInService(entityType, number, who);
        write(who, "put match rules in service", entityType, number);
    }

    private void write(String who, String what, EntityType entityType, int number) {
        journal.write(
                who,
                what,
                new Journal.Subject(
                        "match rules", number, entityType == EntityType.PERSON ? "of people" : "of companies"),
                "version " + number);
    }
}

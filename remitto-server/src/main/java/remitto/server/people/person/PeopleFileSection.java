package remitto.server.people.person;

import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** What sources say of a person, what is kept of it, and what became of the person. */
@Component
class PeopleFileSection implements PersonFileSection {
    private final SensitiveAttributes.Finder sensitive;
    private final People people;

    PeopleFileSection(SensitiveAttributes.Finder sensitive, People people) {
        this.sensitive = sensitive;
        this.people = people;
    }

    @Override
    public int place() {
        return 0;
    }

    @Override
    public List<FileTable> of(long id) {
        People.PersonView found = people.get(id);
        People.PersonView person = sensitive.of(found.entityType()).person(found);
        List<List<String>> kept = new ArrayList<>();
        person.kept()
                .forEach(one -> kept.add(List.of(
                        one.attribute(),
                        one.value(),
                        one.normalised(),
                        one.reason(),
                        one.at().map(Object::toString).orElse(""),
                        one.evidence())));
        List<List<String>> records = new ArrayList<>();
        person.records().forEach(record -> record.cells()
                .forEach((attribute, value) -> records.add(List.of(record.dataset(), record.key(), attribute, value))));
        List<List<String>> history = new ArrayList<>();
        history.add(List.of(person.since().toString(), "First matched"));
        person.history().forEach(event -> history.add(List.of(event.at().toString(), event.words())));
        return List.of(
                new FileTable(
                        "Kept values",
                        "One value of each attribute stands for the person; the rule of the attribute decided which.",
                        List.of("attribute", "value", "normalised", "why this one", "said at", "evidence"),
                        kept),
                new FileTable(
                        "Records in sources",
                        "Read from the sources and judged to be of one person.",
                        List.of("dataset", "key", "attribute", "value"),
                        records),
                new FileTable("History", "What became of the person here.", List.of("at", "what"), history));
    }
}

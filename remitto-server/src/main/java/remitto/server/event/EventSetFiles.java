package remitto.server.event;

import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.server.definition.DefinitionKind;
import remitto.server.journal.Journal;

/** Sets of events as files. */
@Component
class EventSetFiles implements DefinitionKind<EventSetFiles.EventSetFile> {
    private final EventSets sets;
    private final EventIntake intake;
    private final Journal journal;

    EventSetFiles(EventSets sets, EventIntake intake, Journal journal) {
        this.sets = sets;
        this.intake = intake;
        this.journal = journal;
    }

    /**
     * A dataset whose rows are events of people. Its name stays, since measures and audiences speak of it.
     *
     * @param personDataset whose records the events are of
     * @param personColumn that holds the key of such a record
     * @param columns that are kept
     * @param overlapDays that are read again each time, 0 to 400
     */
    record EventSetFile(
            String name,
            long dataset,
            long personDataset,
            String personColumn,
            String timeColumn,
            List<String> columns,
            int overlapDays) {
        EventSetFile {
            columns = List.copyOf(columns);
        }
    }

    @Override
    public Form<EventSetFile> form() {
        return new Form<>("event-set", "event-sets", EventSetFile.class, 70, false);
    }

    @Override
    public List<Kept<EventSetFile>> all() {
        return sets.all().stream()
                .map(one -> new Kept<>(
                        Long.toString(one.id()),
                        one.name(),
                        new EventSetFile(
                                one.name(),
                                one.datasetId(),
                                one.personDatasetId(),
                                one.personColumn(),
                                one.timeColumn(),
                                one.columns().stream()
                                        .map(EventSets.EventColumn::name)
                                        .toList(),
                                one.overlapDays()),
                        Optional.<EventSetFile>empty()))
                .toList();
    }

    @Override
    public String add(Change<EventSetFile> change) {
        long id = sets.add(request(change.content()), change.who());
        note(change.who(), "keeps events", id);
        change.later().accept(() -> intake.read(id, true));
        return Long.toString(id);
    }

    @Override
    public void change(String id, Change<EventSetFile> change) {
        long number = Long.parseLong(id);
        sets.change(number, request(change.content()), change.who());
        note(change.who(), "changed how events are kept", number);
        change.later().accept(() -> intake.read(number, true));
    }

    private static EventSets.EventSetRequest request(EventSetFile file) {
        return new EventSets.EventSetRequest(
                file.name(),
                file.dataset(),
                file.personDataset(),
                file.personColumn(),
                file.timeColumn(),
                file.columns(),
                file.overlapDays());
    }

    @Override
    public void remove(String id, String who) {
        long number = Long.parseLong(id);
        String name = sets.get(number).name();
        sets.remove(number);
        journal.write(who, "keeps events no longer", new Journal.Subject("events", number, name), "");
    }

    private void note(String who, String what, long id) {
        journal.write(who, what, new Journal.Subject("events", id, sets.get(id).name()), "");
    }
}

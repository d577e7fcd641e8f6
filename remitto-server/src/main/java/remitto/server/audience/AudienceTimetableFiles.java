package remitto.server.audience;

import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.timetable.Schedule;
import remitto.server.definition.DefinitionKind;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

/** When events are read, and measures and audiences computed, by themselves: one file, where that is set. */
@Component
class AudienceTimetableFiles implements DefinitionKind<AudienceTimetableFiles.AudienceTimetableFile> {
    private static final String ID = "audiences";

    private final AudienceRefresh refresh;
    private final Journal journal;

    AudienceTimetableFiles(AudienceRefresh refresh, Journal journal) {
        this.refresh = refresh;
        this.journal = journal;
    }

    /** A timetable. */
    record AudienceTimetableFile(Schedule schedule) {}

    @Override
    public Form<AudienceTimetableFile> form() {
        return new Form<>("audience-timetable", "audience-timetables", AudienceTimetableFile.class, 120, false);
    }

    @Override
    public boolean isRemovable() {
        return false;
    }

    /** As it is in the beginning it says nothing. */
    @Override
    public List<Kept<AudienceTimetableFile>> all() {
        Schedule now = refresh.state().schedule();
        return now instanceof Schedule.ByHand
                ? List.of()
                : List.of(new Kept<>(ID, "Audiences", new AudienceTimetableFile(now), Optional.empty()));
    }

    @Override
    public String add(Change<AudienceTimetableFile> change) {
        journal.write(
                change.who(),
                "changed when audiences are brought up to date",
                new Journal.Subject("audiences", 0, ""),
                "");
        refresh.schedule(change.content().schedule());
        return ID;
    }

    @Override
    public void change(String id, Change<AudienceTimetableFile> change) {
        add(change);
    }

    @Override
    public void remove(String id, String who) {
        throw Problem.conflict("Every installation has a timetable of audiences.");
    }
}

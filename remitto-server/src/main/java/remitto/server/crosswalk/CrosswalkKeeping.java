package remitto.server.crosswalk;

import java.util.List;
import org.springframework.stereotype.Component;
import remitto.core.shaper.CrosswalkTable;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

/** Saving crosswalks and putting them in service: written in the journal, by whatever way somebody asks for it. */
@Component
class CrosswalkKeeping {
    private final Crosswalks crosswalks;
    private final Journal journal;

    CrosswalkKeeping(Crosswalks crosswalks, Journal journal) {
        this.crosswalks = crosswalks;
        this.journal = journal;
    }

    /** What a version of a crosswalk is to say. */
    record Wanted(String name, String description, List<CrosswalkTable.Pair> entries) {}

    long add(Wanted wanted, String who) {
        if (wanted.name().isBlank()) {
            throw Problem.invalid("Give the crosswalk a name.");
        }
        long id = crosswalks.add(wanted.name().strip(), wanted.description(), wanted.entries(), who);
        journal.write(who, "saved crosswalk", subject(id, wanted.name()), "version 1");
        return id;
    }

    /** @throws Problem if somebody saved another version since {@code basedOn} */
    void save(long id, int basedOn, Wanted wanted, String who, String note) {
        int version =
                crosswalks.save(id, basedOn, wanted.name().strip(), wanted.description(), wanted.entries(), who, note);
        journal.write(who, "saved crosswalk", subject(id, wanted.name()), "version " + version);
    }

    void putInService(long id, int version, String who) {
        crosswalks.putInService(id, version);
        journal.write(
                who, "put crosswalk in service", subject(id, crosswalks.get(id).name()), "version " + version);
    }

    private static Journal.Subject subject(long id, String name) {
        return new Journal.Subject("crosswalk", id, name);
    }
}

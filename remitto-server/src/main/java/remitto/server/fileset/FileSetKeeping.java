package remitto.server.fileset;

import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.fileset.FileSetDefinition;
import remitto.server.journal.Journal;
import remitto.server.landing.LandedSchema;
import remitto.server.platform.Problem;
import remitto.server.source.OwnSql;
import remitto.server.source.Sources;

/** Making file sets and changing them: checked and written in the journal, by whatever way somebody asks for it. */
@Component
class FileSetKeeping {
    private final FileSets sets;
    private final LandedTables tables;
    private final LandedSchema schema;
    private final Sources sources;
    private final OwnSql ownSql;
    private final Journal journal;

    FileSetKeeping(
            FileSets sets, LandedTables tables, LandedSchema schema, Sources sources, OwnSql ownSql, Journal journal) {
        this.sets = sets;
        this.tables = tables;
        this.schema = schema;
        this.sources = sources;
        this.ownSql = ownSql;
        this.journal = journal;
    }

    /** What a file set is to be. */
    record Wanted(String name, long sourceId, String table, FileSetDefinition definition) {}

    @Transactional
    long add(Wanted wanted, String who) {
        check(wanted, 0);
        if (!sources.get(wanted.sourceId()).isOfFiles()) {
            throw Problem.invalid("File sets belong to sources of files: folders, SFTP servers and uploads.");
        }
        sets.retire(wanted.table().strip());
        long id = sets.add(
                wanted.sourceId(), wanted.name().strip(), wanted.table().strip(), wanted.definition(), who);
        tables.make(id, 1, wanted.definition());
        tables.show(sets.get(id), 1);
        journal.write(who, "added file set", subject(id, wanted.name()), words(wanted.definition()));
        return id;
    }

    /**
     * Saves another definition. Where it changes what rows are, all files are read again; until then the table shows the rows as they
     * were.
     *
     * @throws Problem if somebody saved another revision since {@code basedOn}
     */
    @Transactional
    void save(long id, int basedOn, Wanted wanted, String who) {
        FileSets.FileSet before = sets.get(id);
        check(wanted, id);
        if (!before.table().equals(wanted.table().strip())) {
            throw Problem.conflict("The table stays, since queries name it; add another file set.");
        }
        if (before.sourceId() != wanted.sourceId()) {
            throw Problem.conflict("A file set stays with its source; add another file set.");
        }
        boolean anew = !meaning(before.definition()).equals(meaning(wanted.definition()));
        int revision = basedOn + (anew ? 1 : 0);
        sets.save(id, basedOn, revision, wanted.name().strip(), wanted.definition(), who);
        if (anew) {
            tables.make(id, revision, wanted.definition());
        }
        journal.write(
                who,
                "changed file set",
                subject(id, wanted.name()),
                words(wanted.definition()) + (anew ? "; files are read again" : ""));
    }

    /** What rows depend on. */
    private static FileSetDefinition meaning(FileSetDefinition one) {
        return new FileSetDefinition(
                one.pattern(),
                one.format(),
                one.columns(),
                one.zone(),
                one.several(),
                remitto.core.fileset.AfterReading.LEAVE,
                0);
    }

    void pause(long id, boolean paused, String who) {
        FileSets.FileSet set = sets.get(id);
        sets.pause(id, paused);
        journal.write(who, paused ? "paused file set" : "resumed file set", subject(id, set.name()), "");
    }

    static Journal.Subject subject(long id, String name) {
        return new Journal.Subject("file set", id, name);
    }

    private static String words(FileSetDefinition definition) {
        return definition.pattern() + ", " + definition.format().title() + ", "
                + definition.columns().size() + (definition.columns().size() == 1 ? " column" : " columns");
    }

    private void check(Wanted wanted, long id) {
        ownSql.require();
        if (wanted.name().isBlank()) {
            throw Problem.invalid("Give the file set a name.");
        }
        String table = wanted.table().strip();
        LandedSchema.checkName(table);
        List<String> faults = wanted.definition().faults();
        if (!faults.isEmpty()) {
            throw new Problem(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    faults.get(0),
                    faults.stream()
                            .map(fault -> new Problem.Detail("definition", fault))
                            .toList());
        }
        Optional<String> taken = sets.takenBy(wanted.name().strip(), id);
        if (taken.isPresent()) {
            throw Problem.conflict("File set " + taken.get() + " has this name already.");
        }
        Optional<String> owner = schema.takenBy(table, "file set", id);
        if (owner.isPresent()) {
            throw Problem.conflict(owner.get() + " has this table already.");
        }
    }
}

package remitto.server.fileset;

import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.fileset.FileFormat;
import remitto.core.fileset.FileSetDefinition;
import remitto.server.job.Job;
import remitto.server.job.Jobs;
import remitto.server.journal.Journal;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.Right;
import remitto.server.platform.Json;
import remitto.server.source.OwnSql;
import remitto.server.source.Sources;

/** Sets of files that are read as the rows of a table. */
@RestController
@RequestMapping("/api/file-sets")
class FileSetController {
    private static final int MOST = 200;

    private final FileSets sets;
    private final FileSetKeeping keeping;
    private final FileGuessing guessing;
    private final FileReading reading;
    private final FileLog log;
    private final Jobs jobs;
    private final OwnSql ownSql;
    private final CurrentUser user;
    private final Journal journal;
    private final Json json;
    private final Sources sources;

    FileSetController(
            FileSets sets,
            FileSetKeeping keeping,
            FileGuessing guessing,
            FileReading reading,
            FileLog log,
            Jobs jobs,
            OwnSql ownSql,
            CurrentUser user,
            Journal journal,
            Json json,
            Sources sources) {
        this.sources = sources;
        this.json = json;
        this.sets = sets;
        this.keeping = keeping;
        this.guessing = guessing;
        this.reading = reading;
        this.log = log;
        this.jobs = jobs;
        this.ownSql = ownSql;
        this.user = user;
        this.journal = journal;
    }

    /**
     * A file set to be added or changed.
     *
     * @param table of the schema {@code landed}; it stays
     * @param basedOn revision that was edited; 0 for a new one
     */
    record FileSetDraft(String name, long sourceId, String table, FileSetDefinition definition, int basedOn) {}

    /**
     * Asks what a file seems to be, or what a definition makes of it.
     *
     * @param path of the file to look at; absent for the newest that the pattern names
     * @param format that somebody chose; absent to propose one
     * @param definition by which the first rows are read; absent to propose one
     */
    record FileSampleRequest(
            long sourceId,
            String pattern,
            Optional<String> path,
            Optional<FileFormat> format,
            Optional<FileSetDefinition> definition) {}

    /**
     * A reading of new and changed files, in the background.
     *
     * @param doing the file that is being read, in words; blank before the first
     * @param result once it is done
     * @param problem why it failed, in words
     */
    record FileSetReading(
            long id, Job.State state, String doing, Optional<FileReading.FileReadingResult> result, String problem) {}

    private FileSetReading view(Job job) {
        return new FileSetReading(
                job.id(),
                job.state(),
                job.doing(),
                job.result().map(text -> json.read(text, FileReading.FileReadingResult.class)),
                job.problem());
    }

    /** All file sets. */
    @GetMapping
    List<FileSets.FileSet> fileSets() {
        return sets.all();
    }

    /** A file set. */
    @GetMapping("/{id}")
    FileSets.FileSet fileSet(@PathVariable long id) {
        return sets.get(id);
    }

    /** Adds a file set with its empty table. Its files are read within a minute, or when it is read. */
    @PostMapping
    FileSets.FileSet addFileSet(@RequestBody FileSetDraft draft, Principal who) {
        long id = keeping.add(wanted(draft), who.getName());
        sources.test(draft.sourceId());
        return sets.get(id);
    }

    /** Changes a file set. Where that changes what rows are, all files are read again. */
    @PutMapping("/{id}")
    FileSets.FileSet changeFileSet(@PathVariable long id, @RequestBody FileSetDraft draft, Principal who) {
        keeping.save(id, draft.basedOn(), wanted(draft), who.getName());
        return sets.get(id);
    }

    private static FileSetKeeping.Wanted wanted(FileSetDraft draft) {
        return new FileSetKeeping.Wanted(draft.name(), draft.sourceId(), draft.table(), draft.definition());
    }

    /** Stops looking for files by itself. */
    @PostMapping("/{id}/pause")
    FileSets.FileSet pauseFileSet(@PathVariable long id, Principal who) {
        keeping.pause(id, true, who.getName());
        return sets.get(id);
    }

    /** Looks for files by itself again. */
    @PostMapping("/{id}/resume")
    FileSets.FileSet resumeFileSet(@PathVariable long id, Principal who) {
        keeping.pause(id, false, who.getName());
        return sets.get(id);
    }

    /** Looks for files that are new or changed, and reads them. */
    @PostMapping("/{id}/readings")
    FileSetReading readFileSet(@PathVariable long id, Principal who) {
        FileSets.FileSet set = sets.get(id);
        journal.write(who.getName(), "read file set", FileSetKeeping.subject(id, set.name()), "");
        return view(jobs.begin(who.getName(), progress -> reading.look(id, path -> progress.doing("Reading " + path))));
    }

    /**
     * How far a reading has come; its result is how many files were read, failed, wait and are unchanged. Looking keeps it going.
     *
     * @param job id of the reading
     */
    @GetMapping("/readings/{job}")
    FileSetReading fileSetReading(@PathVariable long job, Principal who) {
        return view(jobs.look(job, who.getName()));
    }

    /**
     * Ends a reading after the file that it is at.
     *
     * @param job id of the reading
     */
    @DeleteMapping("/readings/{job}")
    FileSetReading endFileSetReading(@PathVariable long job, Principal who) {
        return view(jobs.cancel(job, who.getName()));
    }

    /** Looks at a file before anything is made of it. Keeps nothing. */
    @PostMapping("/sample")
    FileGuessing.FileSetSample sampleFile(@RequestBody FileSampleRequest request, Principal who) {
        ownSql.require();
        journal.write(
                who.getName(),
                "looked at a file",
                new Journal.Subject("source", request.sourceId(), "preview"),
                request.path().orElse(request.pattern()));
        return guessing.sample(
                request.sourceId(), request.pattern(), request.path(), request.format(), request.definition());
    }

    /**
     * Files of a source that a pattern names, the newest first.
     *
     * @param source its id
     * @param pattern as in a file set
     */
    @GetMapping("/matches")
    FileGuessing.MatchedFiles matchedFiles(@RequestParam long source, @RequestParam String pattern) {
        return guessing.matched(source, pattern);
    }

    /**
     * Files of a set, the newest first; at most 200.
     *
     * @param from how many are passed over
     */
    @GetMapping("/{id}/files")
    List<FileLog.LandedFile> landedFiles(@PathVariable long id, @RequestParam(defaultValue = "0") int from) {
        sets.get(id);
        return log.files(id, MOST, Math.max(0, from));
    }

    /**
     * Rows of a file that do not fit, by line; at most 200.
     *
     * @param file its id
     */
    @GetMapping("/{id}/files/{file}/held")
    List<FileLog.HeldFileRow> heldFileRows(@PathVariable long id, @PathVariable long file) {
        user.require(Right.SEE_PERSONAL_VALUES);
        return log.held(log.file(id, file).id(), MOST);
    }
}

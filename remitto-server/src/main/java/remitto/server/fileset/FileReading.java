package remitto.server.fileset;

import java.io.IOException;
import java.io.InputStream;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.apache.commons.codec.digest.DigestUtils;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.connect.filedrop.FileStore;
import remitto.connect.rowfile.FileFault;
import remitto.connect.source.SourceProblem;
import remitto.core.fileset.AfterReading;
import remitto.core.fileset.FilesToRead;
import remitto.core.fileset.KnownFile;
import remitto.core.fileset.ListedFile;
import remitto.core.fileset.SeveralFiles;
import remitto.server.landing.LandedLock;
import remitto.server.platform.Problem;
import remitto.server.source.Sources;

/**
 * Looks for files of a set and reads those that are new or changed, each in a transaction of its own: its rows and what is known of it
 * come together, or not at all. Another server that reads the same set is left to it.
 */
@Component
class FileReading {
    private static final Logger LOG = LoggerFactory.getLogger(FileReading.class);

    private final FileSets sets;
    private final FileLog log;
    private final LandedTables tables;
    private final FileLanding landing;
    private final Sources sources;
    private final TransactionTemplate transactions;
    private final JdbcClient jdbc;
    private final LandedLock lock;
    private final Clock clock;

    FileReading(
            FileSets sets,
            FileLog log,
            LandedTables tables,
            FileLanding landing,
            Sources sources,
            TransactionTemplate transactions,
            JdbcClient jdbc,
            LandedLock lock,
            Clock clock) {
        this.sets = sets;
        this.log = log;
        this.tables = tables;
        this.landing = landing;
        this.sources = sources;
        this.transactions = transactions;
        this.jdbc = jdbc;
        this.lock = lock;
        this.clock = clock;
    }

    /**
     * What looking at a set came to.
     *
     * @param read files whose rows were brought in
     * @param failed files that cannot be read as they are
     * @param waiting files that may still be written to, or could not be reached
     * @param unchanged files of which nothing is new
     */
    record FileReadingResult(int read, int failed, int waiting, int unchanged) {}

    /** Told of each file before it is read. */
    interface Progress {
        Progress NONE = path -> {};

        void file(String path);
    }

    /** Looks at a set, and writes down why it could not where it cannot. */
    FileReadingResult look(long id, Progress progress) {
        FileSets.FileSet set = sets.get(id);
        try {
            FileReadingResult result = look(set, sources.files(set.sourceId()), progress);
            sets.looked(id, "");
            return result;
        } catch (SourceProblem e) {
            sets.looked(id, String.valueOf(e.getMessage()));
            throw Problem.conflict(String.valueOf(e.getMessage()));
        }
    }

    private FileReadingResult look(FileSets.FileSet set, FileStore store, Progress progress) {
        List<ListedFile> listed = listed(set, store);
        Map<String, FileLog.Known> known = log.known(set.id()).stream()
                .collect(Collectors.toMap(one -> one.file().file().path(), Function.identity()));
        tables.make(set.id(), set.revision(), set.definition());
        if (set.revision() != set.shownRevision()) {
            carryOver(set, listed, known);
        }
        List<KnownFile> before =
                known.values().stream().map(FileLog.Known::file).toList();
        int[] acts = new int[4];
        for (FilesToRead.Step step : new FilesToRead(set.definition(), set.revision(), clock.instant(), store.isWhole())
                .steps(listed, before)) {
            Optional<FileLog.Known> one =
                    Optional.ofNullable(known.get(step.file().path()));
            switch (step.act()) {
                case READ -> {
                    progress.file(step.file().path());
                    acts[read(set, store, step.file(), one).ordinal()]++;
                }
                case WAIT -> {
                    log.seen(set.id(), step.file());
                    acts[Came.WAITS.ordinal()]++;
                }
                case PASS_OVER -> passOver(set, step.file(), one);
                case NOTHING -> acts[Came.UNCHANGED.ordinal()]++;
            }
        }
        expire(set);
        if (set.revision() != set.shownRevision() && acts[Came.WAITS.ordinal()] == 0 && !tables.misses(set)) {
            tables.show(set, set.revision());
            sources.test(set.sourceId());
        }
        return new FileReadingResult(
                acts[Came.READ.ordinal()],
                acts[Came.FAILED.ordinal()],
                acts[Came.WAITS.ordinal()],
                acts[Came.UNCHANGED.ordinal()]);
    }

    private enum Came {
        READ,
        FAILED,
        WAITS,
        UNCHANGED
    }

    /** Files that were read already are in a folder beside, where no pattern finds them. */
    private static List<ListedFile> listed(FileSets.FileSet set, FileStore store) {
        List<ListedFile> listed = store.list();
        return set.definition().afterReading() == AfterReading.ARCHIVE
                ? listed.stream()
                        .filter(one -> !("/" + one.path()).contains("/" + FileStore.ARCHIVE + "/"))
                        .toList()
                : listed;
    }

    /** The one that is the whole stays so until a newer one was read. */
    private void passOver(FileSets.FileSet set, ListedFile file, Optional<FileLog.Known> known) {
        boolean settled = known.map(one -> one.file().state())
                .filter(state -> state == KnownFile.State.READ || state == KnownFile.State.SUPERSEDED)
                .isPresent();
        if (!settled) {
            log.passedOver(log.seen(set.id(), file));
        }
    }

    /** Rows of files that are not there to be read again come along as they are. */
    private void carryOver(FileSets.FileSet set, List<ListedFile> listed, Map<String, FileLog.Known> known) {
        Set<String> there = listed.stream().map(ListedFile::path).collect(Collectors.toSet());
        known.values().stream()
                .filter(one -> one.file().state() != KnownFile.State.SUPERSEDED
                        && !(one.file().state() == KnownFile.State.READ
                                && one.file().revision() == set.revision())
                        && !there.contains(one.file().file().path()))
                .forEach(one -> transactions.executeWithoutResult(status -> {
                    tables.remove(set.id(), set.revision(), one.id());
                    tables.carryOver(set, one.id());
                    log.listedAnew(one.id(), one.file().file(), set.revision());
                    log.note(
                            one.id(),
                            "The file is gone. Its rows are kept as they were read before the file set changed.");
                }));
    }

    private Came read(FileSets.FileSet set, FileStore store, ListedFile file, Optional<FileLog.Known> known) {
        try {
            if (known.filter(one -> isSameContent(set, store, one)).isPresent()) {
                log.listedAnew(known.get().id(), file, set.revision());
                return Came.UNCHANGED;
            }
            Optional<FileLog.Outcome> outcome =
                    Optional.ofNullable(transactions.execute(status -> landed(set, store, file)));
            outcome.ifPresent(one -> after(set, store, file, one));
            return outcome.isPresent() ? Came.READ : Came.WAITS;
        } catch (FileFault e) {
            return failed(set, file, String.valueOf(e.getMessage()));
        } catch (DataIntegrityViolationException e) {
            LOG.warn("The rows of {} of file set {} cannot be kept", file.path(), set.id(), e);
            return failed(set, file, "PostgreSQL refuses to keep the rows; the server's log has the details.");
        } catch (FileLanding.StillWritten e) {
            log.seen(set.id(), file);
            return Came.WAITS;
        } catch (SourceProblem e) {
            log.note(log.seen(set.id(), file), String.valueOf(e.getMessage()));
            return Came.WAITS;
        }
    }

    /** What was read of it before stays until it can be read again. */
    private Came failed(FileSets.FileSet set, ListedFile file, String problem) {
        log.failed(log.seen(set.id(), file), set.revision(), problem);
        return Came.FAILED;
    }

    /** Its place says that it changed; whether it did is told by its content. */
    private boolean isSameContent(FileSets.FileSet set, FileStore store, FileLog.Known known) {
        if (known.sha256().isEmpty() || known.file().revision() != set.revision()) {
            return false;
        }
        try {
            String now = store.read(known.file().file().path(), bytes -> HexFormat.of()
                    .formatHex(DigestUtils.digest(DigestUtils.getSha256Digest(), bytes)));
            return now.equals(known.sha256());
        } catch (IOException e) {
            throw unreadable(known.file().file().path(), e);
        }
    }

    private static SourceProblem unreadable(String path, IOException e) {
        return new SourceProblem(
                SourceProblem.Kind.UNREACHABLE, path + " could not be read to its end: " + e.getMessage() + ".");
    }

    /** @return {@code null} if another server reads the set */
    private FileLog.@org.jspecify.annotations.Nullable Outcome landed(
            FileSets.FileSet set, FileStore store, ListedFile file) {
        if (!lock.isFree(LandedLock.Of.FILE_SET, set.id()) || sets.get(set.id()).revision() != set.revision()) {
            return null;
        }
        long number = log.seen(set.id(), file);
        try {
            FileLog.Outcome outcome =
                    store.read(file.path(), (InputStream bytes) -> landing.land(set, number, file, bytes));
            log.settled(number, outcome);
            return outcome;
        } catch (IOException e) {
            throw unreadable(file.path(), e);
        }
    }

    private void after(FileSets.FileSet set, FileStore store, ListedFile file, FileLog.Outcome outcome) {
        AfterReading choice = set.definition().afterReading();
        try {
            if (choice == AfterReading.ARCHIVE) {
                store.archive(file.path());
            } else if (choice == AfterReading.DELETE && outcome.held() == 0) {
                store.delete(file.path());
            }
        } catch (SourceProblem e) {
            log.note(
                    log.known(set.id()).stream()
                            .filter(one -> one.file().file().path().equals(file.path()))
                            .findFirst()
                            .orElseThrow()
                            .id(),
                    "The file was read and stays where it is. " + e.getMessage());
        }
    }

    /** Rows are kept for so many days after they were read. */
    private void expire(FileSets.FileSet set) {
        int days = set.definition().keepDays();
        if (days == 0 || set.definition().several() instanceof SeveralFiles.NewestIsWhole) {
            return;
        }
        Instant before = clock.instant().minus(Duration.ofDays(days));
        jdbc.sql("select id from landed_file where file_set_id = ? and state = 'READ' and rows > 0 and read_at < ?")
                .params(set.id(), remitto.server.platform.Rows.time(before))
                .query(Long.class)
                .list()
                .forEach(file -> transactions.executeWithoutResult(status -> {
                    long removed = tables.remove(set.id(), set.revision(), file);
                    jdbc.sql("update landed_file set rows = 0, problem = ? where id = ?")
                            .params("Its rows were removed after " + days + " days.", file)
                            .update();
                    LOG.info("{} rows of file {} of file set {} were removed", removed, file, set.id());
                }));
    }
}

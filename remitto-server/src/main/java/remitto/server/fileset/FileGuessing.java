package remitto.server.fileset;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import remitto.connect.filedrop.FileStore;
import remitto.connect.rowfile.FileFault;
import remitto.connect.rowfile.FileGuess;
import remitto.connect.rowfile.FileSample;
import remitto.connect.rowfile.RowFile;
import remitto.connect.rowfile.RowFiles;
import remitto.connect.source.SourceProblem;
import remitto.core.fileset.FileFormat;
import remitto.core.fileset.FilePattern;
import remitto.core.fileset.FileSetDefinition;
import remitto.core.fileset.ListedFile;
import remitto.core.landed.ColumnGuess;
import remitto.core.landed.LandedColumn;
import remitto.core.landed.RowReading;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.source.Sources;

/** Looks at files before anything is made of them, and shows what would become of their first rows. */
@Component
class FileGuessing {
    private static final int SHOWN_FILES = 20;
    private static final int SHOWN_ROWS = 50;

    private final Sources sources;

    FileGuessing(Sources sources) {
        this.sources = sources;
    }

    /** A file that is there. */
    record FileThere(String path, long size, java.time.Instant modifiedAt) {
        static FileThere of(ListedFile file) {
            return new FileThere(file.path(), file.size(), file.modifiedAt());
        }
    }

    /**
     * Files that a pattern names.
     *
     * @param count how many there are
     * @param newest the newest of them, at most 20
     */
    record MatchedFiles(int count, List<FileThere> newest) {}

    /**
     * A row as it would be kept.
     *
     * @param line at which it begins
     * @param cells in the order of the columns; absent without a value
     * @param problem why it would be held; blank if it would not
     * @param content of a row that would be held, as it stands in the file
     */
    record SampleRow(
            long line,
            @Personal List<Optional<String>> cells,
            @Personal(Personal.Part.IN_TEXT) String problem,
            @Personal String content) {}

    /**
     * What a file seems to be, or what a definition makes of it. Nothing is kept.
     *
     * @param matched files of the pattern
     * @param file that was looked at; absent if there is none
     * @param packing what it is packed with: none, gzip or zip
     * @param evidence sentences about the form; none where the form was given
     * @param columns proposed, with their evidence
     * @param definition proposed, or as given
     * @param rows the first rows by that definition
     * @param held how many of these would be held
     * @param problem why the file cannot be read; blank if it can
     */
    record FileSetSample(
            MatchedFiles matched,
            Optional<FileThere> file,
            String packing,
            List<String> evidence,
            List<ColumnGuess> columns,
            Optional<FileSetDefinition> definition,
            List<SampleRow> rows,
            int held,
            String problem) {}

    MatchedFiles matched(long source, String pattern) {
        return matched(listed(source, pattern));
    }

    private static MatchedFiles matched(List<ListedFile> files) {
        return new MatchedFiles(
                files.size(),
                files.stream().limit(SHOWN_FILES).map(FileThere::of).toList());
    }

    /** The newest first. */
    private List<ListedFile> listed(long source, String pattern) {
        FilePattern wanted = pattern(pattern);
        try {
            return sources.files(source).list().stream()
                    .filter(one -> wanted.matches(one.path()))
                    .sorted(ListedFile.BY_AGE.reversed())
                    .toList();
        } catch (SourceProblem e) {
            throw Problem.conflict(String.valueOf(e.getMessage()));
        }
    }

    private static FilePattern pattern(String text) {
        try {
            return new FilePattern(text.strip());
        } catch (IllegalArgumentException e) {
            throw Problem.invalid(String.valueOf(e.getMessage()));
        }
    }

    /**
     * @param path of the file that is looked at; absent for the newest
     * @param format that somebody chose; absent to propose one
     * @param definition by which the first rows are read; absent to propose one
     */
    FileSetSample sample(
            long source,
            String pattern,
            Optional<String> path,
            Optional<FileFormat> format,
            Optional<FileSetDefinition> definition) {
        List<ListedFile> files = listed(source, pattern);
        MatchedFiles matched = matched(files);
        Optional<ListedFile> found = path.isPresent()
                ? files.stream().filter(one -> one.path().equals(path.get())).findFirst()
                : files.stream().findFirst();
        if (found.isEmpty()) {
            return nothing(
                    matched,
                    Optional.empty(),
                    path.isPresent() ? path.get() + " is gone." : "No file matches this pattern yet.");
        }
        FileStore store = sources.files(source);
        ListedFile file = found.get();
        try {
            FileSample beginning = store.read(file.path(), FileSample::of);
            FileGuess guess = format.isPresent() || definition.isPresent()
                    ? FileGuess.of(
                            beginning, format.orElseGet(() -> definition.get().format()))
                    : FileGuess.of(beginning);
            FileSetDefinition read = definition.orElseGet(() -> proposed(pattern.strip(), guess));
            List<SampleRow> rows = store.read(file.path(), bytes -> {
                try (RowFile opened = RowFiles.open(bytes, read.format(), froms(read))) {
                    return rows(opened, read);
                }
            });
            return new FileSetSample(
                    matched,
                    Optional.of(FileThere.of(file)),
                    guess.packing(),
                    guess.evidence(),
                    guess.columns(),
                    Optional.of(read),
                    rows,
                    (int) rows.stream().filter(row -> !row.problem().isEmpty()).count(),
                    "");
        } catch (FileFault | SourceProblem e) {
            return nothing(matched, Optional.of(FileThere.of(file)), String.valueOf(e.getMessage()));
        } catch (IOException e) {
            return nothing(
                    matched,
                    Optional.of(FileThere.of(file)),
                    "The file could not be read to its end: " + e.getMessage());
        }
    }

    private static FileSetSample nothing(MatchedFiles matched, Optional<FileThere> file, String problem) {
        return new FileSetSample(matched, file, "none", List.of(), List.of(), Optional.empty(), List.of(), 0, problem);
    }

    private static List<String> froms(FileSetDefinition definition) {
        return definition.columns().stream().map(LandedColumn::from).toList();
    }

    private static FileSetDefinition proposed(String pattern, FileGuess guess) {
        return new FileSetDefinition(
                pattern,
                guess.format(),
                guess.columns().stream().map(ColumnGuess::column).toList(),
                "UTC",
                new remitto.core.fileset.SeveralFiles.EachAdds(),
                remitto.core.fileset.AfterReading.LEAVE,
                0);
    }

    private static List<SampleRow> rows(RowFile file, FileSetDefinition definition) throws IOException {
        RowReading reading = new RowReading(definition.columns(), definition.zone());
        List<SampleRow> rows = new ArrayList<>();
        for (RowFile.FileRecord record = next(file, rows); record != null; record = next(file, rows)) {
            if (!record.problem().isEmpty()) {
                rows.add(new SampleRow(record.line(), List.of(), record.problem(), record.text()));
                continue;
            }
            RowReading.Landed landed = reading.read(record.cells());
            if (landed instanceof RowReading.Landed.Kept kept) {
                rows.add(new SampleRow(record.line(), kept.cells(), "", ""));
            } else if (landed instanceof RowReading.Landed.Held held) {
                rows.add(new SampleRow(record.line(), List.of(), held.problem(), file.text()));
            }
        }
        return rows;
    }

    private static RowFile.@Nullable FileRecord next(RowFile file, List<SampleRow> rows) throws IOException {
        return rows.size() < SHOWN_ROWS ? file.next() : null;
    }
}

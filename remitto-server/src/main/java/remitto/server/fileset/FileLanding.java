package remitto.server.fileset;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.apache.commons.codec.digest.DigestUtils;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import remitto.connect.rowfile.CountedInput;
import remitto.connect.rowfile.FileFault;
import remitto.connect.rowfile.RowFile;
import remitto.connect.rowfile.RowFiles;
import remitto.core.fileset.FileSetDefinition;
import remitto.core.fileset.KnownFile;
import remitto.core.fileset.ListedFile;
import remitto.core.fileset.SeveralFiles;
import remitto.core.landed.LandedColumn;
import remitto.core.landed.RowReading;
import remitto.server.platform.CopyStream;
import remitto.server.platform.CopyText;
import remitto.server.platform.Json;

/** Brings the rows of one file into the table of its set, in the transaction of whoever asks. */
@Component
class FileLanding {
    /** More rows than this that do not fit are no exceptions, but another kind of file. */
    static final int MOST_HELD = 10_000;

    /** PostgreSQL's index holds keys of up to 2,704 bytes (15 manual, section 67.4.1). */
    private static final int LONGEST_KEY = 600;

    private final JdbcTemplate template;
    private final LandedTables tables;
    private final FileLog log;
    private final Json json;

    FileLanding(JdbcTemplate template, LandedTables tables, FileLog log, Json json) {
        this.template = template;
        this.tables = tables;
        this.log = log;
        this.json = json;
    }

    /** The file was not of the size that it is listed with: it is being written to. */
    static final class StillWritten extends RuntimeException {
        StillWritten(String path) {
            super(path);
        }
    }

    /**
     * Reads a file to its end.
     *
     * @param number of the file in the log
     * @throws FileFault if it cannot be read as what the set says
     * @throws StillWritten if it changed meanwhile
     */
    FileLog.Outcome land(FileSets.FileSet set, long number, ListedFile file, InputStream packed) throws IOException {
        MessageDigest digest = DigestUtils.getSha256Digest();
        CountedInput counted = new CountedInput(new DigestInputStream(packed, digest));
        List<String> wanted =
                set.definition().columns().stream().map(LandedColumn::from).toList();
        try (RowFile rows = RowFiles.open(counted, set.definition().format(), wanted)) {
            return land(set, number, file, counted, rows, digest);
        }
    }

    private FileLog.Outcome land(
            FileSets.FileSet set,
            long number,
            ListedFile file,
            CountedInput counted,
            RowFile rows,
            MessageDigest digest)
            throws IOException {
        String into = prepare(set, number);
        Landed landed;
        try (CopyStream copy = new CopyStream(template, into)) {
            landed = new Landed(set.definition(), number, order(file), copy);
            for (RowFile.FileRecord record = rows.next(); record != null; record = rows.next()) {
                landed.row(record, rows);
            }
            // What follows the last row, such as the end of a packed file, is a part of it too.
            counted.transferTo(OutputStream.nullOutputStream());
            if (counted.bytes() != file.size()) {
                throw new StillWritten(file.path());
            }
            copy.end();
        }
        apply(set);
        log.hold(number, landed.held);
        return new FileLog.Outcome(
                KnownFile.State.READ,
                set.revision(),
                HexFormat.of().formatHex(digest.digest()),
                landed.rows,
                landed.held.size(),
                others(rows.others()));
    }

    private static String others(List<String> others) {
        return others.isEmpty()
                ? ""
                : "Columns of the file that are not kept: "
                        + others.stream().limit(20).collect(Collectors.joining(", "))
                        + (others.size() > 20 ? " …" : "") + ".";
    }

    /** Files by age, and equally old ones by name, as their texts are in order. */
    static String order(ListedFile file) {
        return String.format(
                        Locale.ROOT,
                        "%012d.%06d",
                        file.modifiedAt().getEpochSecond(),
                        file.modifiedAt().getNano() / 1_000)
                + " " + file.path();
    }

    /** @return the table and the columns that rows are copied into */
    private String prepare(FileSets.FileSet set, long number) {
        FileSetDefinition definition = set.definition();
        String columns = " (" + LandedTables.columns(definition) + ", " + LandedTables.OWN;
        if (definition.several() instanceof SeveralFiles.EachHoldsChanges) {
            template.execute("create temporary table incoming (like " + LandedTables.table(set.id(), set.revision())
                    + ") on commit drop");
            return "incoming" + columns + ", _order, _removed)";
        }
        if (definition.several() instanceof SeveralFiles.NewestIsWhole) {
            tables.empty(set.id(), set.revision());
            log.superseded(set.id(), number);
        } else {
            tables.remove(set.id(), set.revision(), number);
        }
        return LandedTables.table(set.id(), set.revision()) + columns + ")";
    }

    /** Changes are applied by key, the last of the file for each; a file that is older than what is known of a key changes nothing of it. */
    private void apply(FileSets.FileSet set) {
        if (set.definition().several() instanceof SeveralFiles.EachHoldsChanges changes) {
            String keys = LandedTables.keys(changes);
            String columns = LandedTables.columns(set.definition()) + ", " + LandedTables.OWN + ", _order, _removed";
            String updated = java.util.Arrays.stream(columns.split(", (?=(?:[^\"]*\"[^\"]*\")*[^\"]*$)"))
                    .map(column -> column + " = excluded." + column)
                    .collect(Collectors.joining(", "));
            template.execute("insert into " + LandedTables.table(set.id(), set.revision()) + " as known (" + columns
                    + ") select distinct on (" + keys + ") " + columns + " from incoming order by " + keys
                    + ", _line desc on conflict (" + keys + ") do update set " + updated
                    + " where known._order <= excluded._order");
        }
    }

    /** The rows of a file on their way. */
    private final class Landed {
        private final FileSetDefinition definition;
        private final RowReading reading;
        private final long number;
        private final String order;
        private final CopyStream copy;
        private final List<FileLog.HeldFileRow> held = new ArrayList<>();
        private final Optional<SeveralFiles.EachHoldsChanges> changes;
        private final List<Integer> keys;
        private final int change;
        private final Set<String> removes;
        private long rows;

        Landed(FileSetDefinition definition, long number, String order, CopyStream copy) {
            this.definition = definition;
            this.reading = new RowReading(definition.columns(), definition.zone());
            this.number = number;
            this.order = order;
            this.copy = copy;
            this.changes = definition.several() instanceof SeveralFiles.EachHoldsChanges one
                    ? Optional.of(one)
                    : Optional.empty();
            List<String> names = definition.names();
            this.keys = changes.stream()
                    .flatMap(one -> one.keys().stream())
                    .map(names::indexOf)
                    .toList();
            this.change = changes.map(one -> names.indexOf(one.change())).orElse(-1);
            this.removes = changes.stream()
                    .flatMap(one -> one.removes().stream())
                    .map(Landed::plain)
                    .collect(Collectors.toSet());
        }

        private static String plain(String word) {
            return word.strip().toLowerCase(Locale.ROOT);
        }

        void row(RowFile.FileRecord record, RowFile file) {
            if (!record.problem().isEmpty()) {
                hold(record.line(), record.problem(), record.text());
                return;
            }
            RowReading.Landed landed = reading.read(record.cells());
            if (landed instanceof RowReading.Landed.Held one) {
                hold(record.line(), one.problem(), file.text());
            } else if (landed instanceof RowReading.Landed.Kept kept) {
                Optional<String> wrong = keyFault(kept);
                if (wrong.isPresent()) {
                    hold(record.line(), wrong.get(), file.text());
                } else {
                    keep(record.line(), kept);
                }
            }
        }

        private Optional<String> keyFault(RowReading.Landed.Kept kept) {
            for (int key : keys) {
                Optional<String> cell = kept.cells().get(key);
                if (cell.filter(text -> !text.isBlank()).isEmpty()) {
                    return Optional.of(definition.names().get(key) + ": is empty, so no record can be matched");
                }
                if (cell.get().length() > LONGEST_KEY) {
                    return Optional.of(definition.names().get(key) + ": is too long for a key");
                }
            }
            return Optional.empty();
        }

        private void hold(long line, String problem, String content) {
            if (held.size() == MOST_HELD) {
                throw new FileFault("More than 10,000 rows do not fit, the first in line "
                        + held.get(0).line() + ": " + held.get(0).problem()
                        + " Nothing of the file was kept. Look whether its form is what the file set says.");
            }
            held.add(new FileLog.HeldFileRow(line, problem, content));
        }

        private void keep(long line, RowReading.Landed.Kept kept) {
            rows++;
            CopyText row = copy.row();
            for (Optional<String> cell : kept.cells()) {
                if (cell.isPresent()) {
                    row.text(cell.get());
                } else {
                    row.none();
                }
            }
            row.number(number).number(line);
            row.cell(kept.originals().isEmpty() ? Optional.empty() : Optional.of(json.write(kept.originals())));
            if (changes.isPresent()) {
                boolean removed = change >= 0
                        && kept.cells()
                                .get(change)
                                .filter(word -> removes.contains(plain(word)))
                                .isPresent();
                row.text(order).truth(removed);
            }
            row.endRow();
        }
    }
}

package remitto.core.file;

import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import remitto.core.destination.Abilities;
import remitto.core.destination.Field;
import remitto.core.destination.ObjectDescription;

/**
 * A file as its receiver wants it. It is an object of a destination whose fields are its columns.
 *
 * @param people whether its rows are individuals, so that a route to it needs a stated basis
 * @param folder below the place of the destination; blank for that place itself
 * @param zone of the dates in its name
 * @param key the column by which a record is told apart
 */
public record FileLayout(
        String name,
        boolean people,
        FileContent content,
        String folder,
        FileName fileName,
        String zone,
        FileForm form,
        boolean gzip,
        String key,
        List<FileColumn> columns) {
    public FileLayout {
        columns = List.copyOf(columns);
        if (!name.matches("[a-z0-9][a-z0-9_-]{0,59}")) {
            throw new IllegalArgumentException(
                    "A file name has at most 60 lower-case letters, digits, hyphens and underscores.");
        }
        Set<String> names = new HashSet<>();
        for (FileColumn column : columns) {
            if (column.name().isBlank() || !column.name().equals(column.name().strip())) {
                throw new IllegalArgumentException("Every column needs a name without leading or trailing spaces.");
            }
            if (!names.add(column.name())) {
                throw new IllegalArgumentException("There are two columns " + column.name() + ".");
            }
        }
        if (!names.contains(key)) {
            throw new IllegalArgumentException("Choose the key column.");
        }
        if (content.changes()
                .filter(changes -> names.contains(changes.column()))
                .isPresent()) {
            throw new IllegalArgumentException(
                    "The column with the kind of change cannot be one of the other columns.");
        }
        if (content.changes().isPresent() && !fileName.differsEachRun()) {
            throw new IllegalArgumentException(
                    "A file of changes that replaces the one before may lose some that were not"
                            + " taken in yet; put {run}, or {date} and {time}, into its name.");
        }
        if (folder.startsWith("/") || List.of(folder.split("/")).contains("..")) {
            throw new IllegalArgumentException("The folder is below the destination's own.");
        }
        try {
            ZoneId.of(zone);
        } catch (DateTimeException e) {
            throw new IllegalArgumentException("There is no time zone " + zone + ".", e);
        }
    }

    public ObjectDescription description() {
        List<Field> fields = new ArrayList<>();
        columns.forEach(column -> fields.add(column.field(column.name().equals(key))));
        return new ObjectDescription(name, name, people, new Abilities(false, false, true, true), fields);
    }

    /** What the name of its files ends in. */
    public String ending() {
        return form.ending() + (gzip ? ".gz" : "");
    }

    /** The columns as they stand in the file. */
    public List<String> header() {
        List<String> header = new ArrayList<>();
        content.changes().ifPresent(changes -> header.add(changes.column()));
        columns.forEach(column -> header.add(column.name()));
        return header;
    }
}

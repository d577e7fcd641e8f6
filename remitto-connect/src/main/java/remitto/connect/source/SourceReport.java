package remitto.connect.source;

import java.util.List;

/**
 * What a login can read in a source.
 *
 * What a connection can reach and what it may not.
 *
 * @param warnings what the login may do beyond reading, in words that follow "it"; such a login is not used for reading
 * @param grants statements that give a login exactly the reading it needs
 */
public record SourceReport(
        String server,
        String user,
        boolean encrypted,
        List<Schema> schemas,
        List<String> warnings,
        List<String> grants) {

    /** The same of a login that nobody else grants anything. */
    public SourceReport withoutGrants() {
        return new SourceReport(server, user, encrypted, schemas, warnings, List.of());
    }

    /** A schema of a database with its tables. */
    public record Schema(String name, boolean usable, List<Table> tables) {}

    /**
     * A table of a database.
     *
     * @param rowEstimate the server's own estimate; -1 when it has none yet
     */
    public record Table(String name, long rowEstimate, boolean readable, List<TableColumn> columns) {}

    /** A column of a table. */
    public record TableColumn(String name, String type) {}
}

package remitto.server.secret;

import java.nio.charset.StandardCharsets;

/**
 * Where a sealed value is kept. It is sealed for that place: moved to another row, it does not open.
 *
 * @param table it is kept in
 * @param row that tells it apart there
 */
public record Place(String table, String row) {
    public static Place of(String table, long row) {
        return new Place(table, Long.toString(row));
    }

    byte[] bytes() {
        return (table + "/" + row).getBytes(StandardCharsets.UTF_8);
    }
}

package remitto.server.secret;

import java.util.List;

/**
 * A column of sealed values.
 *
 * @param key column that tells its rows apart, as it stands in their {@link Place}; a constant where there is one row only
 */
record SealedColumn(String table, String key, String column) {
    /** Every column that holds sealed values. */
    static final List<SealedColumn> ALL = List.of(
            new SealedColumn("source", "id", "secret"),
            new SealedColumn("destination", "id", "secret"),
            new SealedColumn("receiver", "id", "secret"),
            new SealedColumn("destination_grant", "destination_id", "sealed"),
            new SealedColumn("hash_key", "name", "sealed"),
            new SealedColumn("erasure_key", "single", "sealed"),
            new SealedColumn("second_factor", "user_id", "sealed"),
            new SealedColumn("sign_in_attempt", "state_hash", "sealed"));

    Place place(String row) {
        return new Place(table, row);
    }
}

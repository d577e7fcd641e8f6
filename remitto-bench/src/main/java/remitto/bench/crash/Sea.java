package remitto.bench.crash;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import remitto.demo.Databases;

/**
 * The warehouse that the rounds change, and what destinations must hold for its rows, told by a few lines that share nothing with the
 * product.
 */
final class Sea {
    static final String HOLDERS = """
            select pass_number, given_name, family_name, home_port, status from ferry.pass_holders where status <> 'applied'
            """;
    static final String LETTERS = """
            select distinct lower(trim(email)) as email from ferry.pass_holders
            where mail_consent = 'yes' and email like '%@%'
            """;
    static final String NOTICES = "select ref, words from ferry.notices";
    static final String PIERS = "select vat_number, name, city from ferry.piers where gone_in is null";

    private static final int PIERS_AT_FIRST = 600;

    private final Databases databases;
    private final String database;

    Sea(Databases databases, String database) {
        this.databases = databases;
        this.database = database;
    }

    /** Makes what the rounds need; rows that a route would hold for good are not among them. */
    void prepare() throws SQLException {
        run(
                "delete from ferry.pass_holders where pass_number !~ '^P-[0-9]+$' or trim(coalesce(family_name, '')) = '' or"
                        + " trim(coalesce(given_name, '')) = '' or length(family_name) > 60");
        run(
                "delete from ferry.pass_holders a using ferry.pass_holders b where a.ctid > b.ctid and a.pass_number = b.pass_number");
        run("create table ferry.notices (ref text, words text)");
        run("create table ferry.piers as select 'PIER' || n as vat_number, 'Pier ' || n as name, 'Tarnvik' as city,"
                + " 0 as came_in, null::int as gone_in from generate_series(1, " + PIERS_AT_FIRST + ") as n");
        databases.grantReader(database);
    }

    /** Changes several fields of many rows, adds some, and lets some go. The same for the same round. */
    void change(int round) throws SQLException {
        run("update ferry.pass_holders set given_name = ' Runa ' || " + round + " || ' ', home_port ="
                + " (array['TAR','BRE','LYS','SAN','KVA'])[1 + abs(hashtext(pass_number || " + round + ")) % 5],"
                + " status = case when abs(hashtext('s' || pass_number || " + round
                + ")) % 4 = 0 then 'expired' else 'active' end"
                + " where abs(hashtext('r' || pass_number || " + round + ")) % 3 > 0");
        run("update ferry.pass_holders set mail_consent = case mail_consent when 'yes' then 'no' else 'yes' end"
                + " where abs(hashtext('m' || pass_number || " + round + ")) % 5 = 0");
        run("delete from ferry.pass_holders where abs(hashtext('d' || pass_number || " + round + ")) % 30 = 0");
        run("insert into ferry.pass_holders select 'N-' || " + round
                + " || '-' || pass_number, given_name, family_name, 'n' || "
                + round
                + " || lower(pass_number) || '@ny.example', null, country, birth_date, home_port, 'active', 'yes',"
                + " valid_until, updated_at from ferry.pass_holders where pass_number like 'P-%' and abs(hashtext("
                + "'n' || pass_number || " + round + ")) % 15 = 0");
        run("insert into ferry.notices select 'notice-" + round + "-' || n, 'Notice ' || n || ' of round " + round
                + "' from generate_series(1, 12) as n");
        if (!isUndo(round)) {
            changePiers(round);
        }
    }

    /** Every third round takes back what the one before it sent of the piers, instead of sending them. */
    static boolean isUndo(int round) {
        return round > 0 && round % 3 == 0;
    }

    /** Every pier that stays has new values, so that none of them stays as it was taken back; all that went in the last change return. */
    private void changePiers(int round) throws SQLException {
        run("update ferry.piers set gone_in = null, came_in = " + round + " where gone_in is not null");
        run("update ferry.piers set name = 'Pier ' || vat_number || ' as of round " + round + "', city = 'Quay " + round
                + "' || right(vat_number, 1)");
        run("update ferry.piers set gone_in = " + round + " where came_in < " + round
                + " and abs(hashtext('p' || vat_number || " + round + ")) % 6 = 0");
        run("insert into ferry.piers select 'PIERN' || " + round + " || 'N' || n, 'New pier ' || n, 'Lyseby', " + round
                + ", null from generate_series(1, 40) as n");
    }

    private void run(String sql) throws SQLException {
        try (Connection connection = databases.owner(database);
                Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    private interface Row {
        void take(ResultSet row) throws SQLException;
    }

    private void each(String sql, Row taken) throws SQLException {
        try (Connection connection = databases.owner(database);
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(sql)) {
            while (rows.next()) {
                taken.take(rows);
            }
        }
    }

    /** By key, the fields a contact must have. */
    Map<String, Map<String, String>> contacts() throws SQLException {
        Map<String, Map<String, String>> wanted = new TreeMap<>();
        each(HOLDERS, row -> {
            Map<String, String> fields = new LinkedHashMap<>();
            fields.put("given_name", row.getString("given_name").strip());
            fields.put("family_name", row.getString("family_name").strip());
            fields.put("home_port", text(row.getString("home_port")).strip());
            fields.put("pass_status", row.getString("status").equals("active") ? "current" : "lapsed");
            wanted.put(row.getString("pass_number"), fields);
        });
        return wanted;
    }

    /** By key, the fields a pier's company must have when it is sent as the warehouse has it now. */
    Map<String, Map<String, String>> piers() throws SQLException {
        Map<String, Map<String, String>> wanted = new TreeMap<>();
        each(
                PIERS,
                row -> wanted.put(
                        row.getString("vat_number"),
                        Map.of("name", row.getString("name"), "city", row.getString("city"))));
        return wanted;
    }

    private static String text(String value) {
        return value == null ? "" : value;
    }

    /** The members that the list must have. */
    TreeSet<String> members() throws SQLException {
        TreeSet<String> wanted = new TreeSet<>();
        each(LETTERS, row -> wanted.add(sha256(row.getString("email"))));
        return wanted;
    }

    private static String sha256(String text) {
        try {
            return HexFormat.of()
                    .formatHex(MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    /** By key, the words of every notice there ever was. */
    Map<String, String> notices() throws SQLException {
        Map<String, String> wanted = new TreeMap<>();
        each(NOTICES, row -> wanted.put(row.getString("ref"), row.getString("words")));
        return wanted;
    }
}

package remitto.server.secret;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;

/**
 * The command {@code rotate-key}: seals everything again under a new key, in the database and with the key file that the environment
 * names as the server would (REMITTO_DB_URL, REMITTO_DB_USER, REMITTO_DB_PASSWORD, REMITTO_SECRET_KEY_FILE). Servers are stopped first.
 */
public final class RotateKey {
    private RotateKey() {}

    public static void main(String[] args) throws SQLException {
        try (Connection connection = DriverManager.getConnection(
                System.getenv("REMITTO_DB_URL"),
                System.getenv("REMITTO_DB_USER"),
                System.getenv("REMITTO_DB_PASSWORD"))) {
            KeyRotation.Done done =
                    new KeyRotation(new KeyFile(Path.of(System.getenv("REMITTO_SECRET_KEY_FILE"))), connection).run();
            System.out.println((done.finished() ? "A rotation that was interrupted is finished. " : "") + done.values()
                    + " sealed values are under a new key. Back the key file up again, apart from the database.");
        } catch (IllegalStateException e) {
            System.err.println("remitto: " + e.getMessage());
            System.exit(1);
        }
    }
}

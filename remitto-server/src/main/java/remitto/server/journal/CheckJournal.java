package remitto.server.journal;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;

/**
 * The command {@code check-journal}: reads the journal of the database that the environment names as the server would
 * (REMITTO_DB_URL, REMITTO_DB_USER, REMITTO_DB_PASSWORD), tells what it found, and ends with 0 only if nothing is wrong with it.
 */
public final class CheckJournal {
    private CheckJournal() {}

    public static void main(String[] args) throws SQLException {
        try (Connection connection = DriverManager.getConnection(
                System.getenv("REMITTO_DB_URL"),
                System.getenv("REMITTO_DB_USER"),
                System.getenv("REMITTO_DB_PASSWORD"))) {
            JournalCheck.Report report = new JournalCheck(connection).run();
            report.faults().forEach(System.out::println);
            if (!report.locked()) {
                System.out.println(
                        "This login may change the journal. A superuser locks it once with lock-journal.sql.");
            }
            System.out.println("journal entries=" + report.entries() + " sealed=" + report.sealed() + " without_words="
                    + report.withoutWords() + " faults=" + report.faults().size() + " locked=" + report.locked()
                    + " head=" + report.head());
            System.exit(report.faults().isEmpty() ? 0 : 1);
        }
    }
}

package remitto.server.source;

import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import remitto.server.journal.Journal;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.Right;
import remitto.server.permission.Role;
import remitto.server.platform.Problem;

/**
 * The lock before SQL that somebody wrote themselves. It can read whatever the login can, so it is for editors who may see personal
 * values, and its text is in the journal.
 */
@Component
public class OwnSql {
    private static final int KEPT = 4_000;

    private final CurrentUser user;
    private final Journal journal;

    OwnSql(CurrentUser user, Journal journal) {
        this.user = user;
        this.journal = journal;
    }

    /** @throws Problem if the current user may not run SQL */
    public void require() {
        if (!user.isAtLeast(Role.EDITOR)) {
            throw new Problem(HttpStatus.FORBIDDEN, "Only editors may run SQL of their own.", List.of());
        }
        user.require(Right.SEE_PERSONAL_VALUES);
    }

    /**
     * Lets a text run, and writes it down first.
     *
     * @param about what it is run for
     * @throws Problem if the current user may not run SQL
     */
    public void run(String sql, Journal.Subject about) {
        require();
        journal.write(
                user.id().orElseThrow(),
                "ran SQL",
                about,
                sql.length() <= KEPT ? sql : sql.substring(0, KEPT) + " … (" + sql.length() + " characters)");
    }
}

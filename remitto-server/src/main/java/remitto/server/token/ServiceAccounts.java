package remitto.server.token;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.permission.ActorNames;
import remitto.server.permission.Right;
import remitto.server.permission.Role;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Accounts of programs. They stay once they were made, since history names them. */
@Component
class ServiceAccounts {
    private static final int LONGEST_NAME = 80;
    private static final String SELECT = """
            select u.id, u.name, u.active, array(select may from user_right where user_id = u.id and granted) as rights
            from app_user u where u.kind = 'SERVICE'
            """;

    private final JdbcClient jdbc;
    private final Tokens tokens;
    private final ActorNames names;
    private final Clock clock;

    ServiceAccounts(JdbcClient jdbc, Tokens tokens, ActorNames names, Clock clock) {
        this.jdbc = jdbc;
        this.tokens = tokens;
        this.names = names;
        this.clock = clock;
    }

    /**
     * What can be said about a service account.
     *
     * @param name no user and no other service account has it
     * @param rights what it may see beyond the scopes of its tokens
     * @param active whether its tokens are let in
     */
    record Wanted(String name, Set<Right> rights, boolean active) {
        Wanted {
            rights = Set.copyOf(rights);
        }

        String called() {
            String called = name.strip().replaceAll("\\s+", " ");
            if (called.codePoints().noneMatch(Character::isLetter) || called.length() > LONGEST_NAME) {
                throw Problem.invalid("Enter a name of 1 to " + LONGEST_NAME + " characters with at least one letter.");
            }
            return called;
        }
    }

    List<ServiceAccount> all() {
        return jdbc.sql(SELECT + " order by lower(u.name)")
                .query((row, number) -> account(row))
                .list();
    }

    ServiceAccount get(long id) {
        return jdbc.sql(SELECT + " and u.id = ?")
                .param(id)
                .query((row, number) -> account(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("service account " + id));
    }

    @Transactional
    ServiceAccount add(Wanted wanted) {
        try {
            long id = jdbc.sql("""
                            insert into app_user (kind, name, role, active, created_at) values ('SERVICE', ?, ?, ?, ?) returning id
                            """)
                    .params(wanted.called(), Role.VIEWER.name(), wanted.active(), Rows.time(clock.instant()))
                    .query(Long.class)
                    .single();
            return withRights(id, wanted.rights());
        } catch (DuplicateKeyException e) {
            throw taken();
        }
    }

    @Transactional
    ServiceAccount change(long id, Wanted wanted) {
        get(id);
        try {
            jdbc.sql("update app_user set name = ?, active = ? where id = ?")
                    .params(wanted.called(), wanted.active(), id)
                    .update();
        } catch (DuplicateKeyException e) {
            throw taken();
        }
        names.changed(id);
        return withRights(id, wanted.rights());
    }

    private ServiceAccount withRights(long id, Set<Right> rights) {
        jdbc.sql("delete from user_right where user_id = ?").param(id).update();
        rights.forEach(right -> jdbc.sql("insert into user_right (user_id, may, granted) values (?, ?, true)")
                .params(id, right.name())
                .update());
        return get(id);
    }

    private static Problem taken() {
        return Problem.conflict("A user or another service account has this name.");
    }

    private ServiceAccount account(ResultSet row) throws SQLException {
        long id = row.getLong("id");
        Set<Right> rights = EnumSet.noneOf(Right.class);
        Arrays.stream((String[]) row.getArray("rights").getArray())
                .map(Right::valueOf)
                .forEach(rights::add);
        return new ServiceAccount(id, row.getString("name"), row.getBoolean("active"), rights, tokens.of(id));
    }
}

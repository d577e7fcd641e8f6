package remitto.server.permission;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Reads accounts with the rights in effect. */
@Component
public class Accounts {
    private static final String SELECT = """
            select u.id, u.email, u.name, u.role, u.active,
              array(select may from role_right where role = u.role and u.kind = 'PERSON'
                    union select may from user_right where user_id = u.id and granted
                    except select may from user_right where user_id = u.id and not granted) as rights
            from app_user u
            """;

    private final JdbcClient jdbc;

    Accounts(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** The account of a person or of a program. */
    public Optional<UserAccount> find(long id) {
        return one("u.id = ?", id);
    }

    /** The account of somebody who may sign in. */
    public Optional<UserAccount> findPerson(long id) {
        return one("u.id = ? and u.kind = 'PERSON'", id);
    }

    private Optional<UserAccount> one(String which, long id) {
        return jdbc.sql(SELECT + " where " + which)
                .param(id)
                .query((row, number) -> account(row))
                .optional();
    }

    /** Everybody who may sign in, or could once. */
    public List<UserAccount> all() {
        return jdbc.sql(SELECT + " where u.kind = 'PERSON' order by u.name")
                .query((row, number) -> account(row))
                .list();
    }

    private static UserAccount account(ResultSet row) throws SQLException {
        return new UserAccount(
                row.getLong("id"),
                Optional.ofNullable(row.getString("email")).orElse(""),
                row.getString("name"),
                Role.valueOf(row.getString("role")),
                row.getBoolean("active"),
                rights((String[]) row.getArray("rights").getArray()));
    }

    private static Set<Right> rights(String[] names) {
        Set<Right> rights = EnumSet.noneOf(Right.class);
        Arrays.stream(names).map(Right::valueOf).forEach(rights::add);
        return rights;
    }
}

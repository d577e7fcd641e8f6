package remitto.server.access;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;
import remitto.server.platform.Rows;

/** The people who may sign in. */
@Component
public class Users {
    private final JdbcClient jdbc;
    private final PasswordEncoder passwords;
    private final Clock clock;

    Users(JdbcClient jdbc, PasswordEncoder passwords, Clock clock) {
        this.jdbc = jdbc;
        this.passwords = passwords;
        this.clock = clock;
    }

    public record User(long id, String email, String name, Role role) {}

    record Credentials(User user, String passwordHash) {}

    public User add(String email, String name, Role role, String password) {
        return jdbc.sql("""
                        insert into app_user (email, name, role, password_hash, created_at)
                        values (lower(?), ?, ?, ?, ?) returning id, email, name, role
                        """)
                .params(email, name, role.name(), passwords.encode(password), Rows.time(clock.instant()))
                .query((row, number) -> user(row))
                .single();
    }

    boolean none() {
        return jdbc.sql("select count(*) from app_user").query(Long.class).single() == 0;
    }

    List<User> all() {
        return jdbc.sql("select id, email, name, role from app_user order by name")
                .query((row, number) -> user(row))
                .list();
    }

    Optional<Credentials> find(String email) {
        return jdbc.sql("select id, email, name, role, password_hash from app_user where email = lower(?)")
                .param(email)
                .query((row, number) -> new Credentials(user(row), row.getString("password_hash")))
                .optional();
    }

    private static User user(java.sql.ResultSet row) throws java.sql.SQLException {
        return new User(
                row.getLong("id"), row.getString("email"), row.getString("name"), Role.valueOf(row.getString("role")));
    }
}

package remitto.server.access;

import java.text.Normalizer;
import java.time.Clock;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.permission.Accounts;
import remitto.server.permission.ActorNames;
import remitto.server.permission.Right;
import remitto.server.permission.Role;
import remitto.server.permission.UserAccount;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** The people who may sign in, and their passwords. */
@Component
public class Users {
    private static final Pattern EMAIL =
            Pattern.compile("[^\\s@,;<>\"]{1,64}@[^\\s@,;<>\"]{1,189}\\.[^\\s@.,;<>\"]{2,63}");
    private static final int LONGEST_NAME = 80;

    private final JdbcClient jdbc;
    private final Accounts accounts;
    private final ActorNames names;
    private final PasswordEncoder passwords;
    private final PasswordRules rules;
    private final Clock clock;

    Users(
            JdbcClient jdbc,
            Accounts accounts,
            ActorNames names,
            PasswordEncoder passwords,
            PasswordRules rules,
            Clock clock) {
        this.jdbc = jdbc;
        this.accounts = accounts;
        this.names = names;
        this.passwords = passwords;
        this.rules = rules;
        this.clock = clock;
    }

    /** What can be said about a user. */
    public record Profile(String email, String name, Role role) {
        /** @throws Problem that says what is wrong with it */
        Profile valid() {
            String address = email.strip().toLowerCase(Locale.ROOT);
            if (!EMAIL.matcher(address).matches()) {
                throw Problem.invalid("The e-mail address is not valid. Enter one such as anna@company.example.");
            }
            String called =
                    Normalizer.normalize(name, Normalizer.Form.NFKC).strip().replaceAll("\\s+", " ");
            if (called.codePoints().noneMatch(Character::isLetter)
                    || called.length() > LONGEST_NAME
                    || called.codePoints().anyMatch(Character::isISOControl)) {
                throw Problem.invalid("Enter a name of 1 to " + LONGEST_NAME + " characters with at least one letter.");
            }
            return new Profile(address, called, role);
        }
    }

    /** An account and the hash of its password. */
    record Credentials(long id, String passwordHash, boolean active) {}

    /** @throws Problem if something about the user is not valid, or the name or address is taken */
    public UserAccount add(Profile wanted, String password) {
        Profile profile = wanted.valid();
        rules.check(password, profile);
        long id = unique(() -> jdbc.sql("""
                        insert into app_user (email, name, role, password_hash, created_at) values (?, ?, ?, ?, ?) returning id
                        """)
                .params(
                        profile.email(),
                        profile.name(),
                        profile.role().name(),
                        passwords.encode(password),
                        Rows.time(clock.instant()))
                .query(Long.class)
                .single());
        return get(id);
    }

    /** Adds somebody who signs in elsewhere. A name that is taken is told apart by the address. */
    @Transactional
    public UserAccount addWithoutPassword(Profile wanted) {
        Profile profile = wanted.valid();
        boolean taken = jdbc.sql("select exists (select from app_user where lower(name) = lower(?))")
                .param(profile.name())
                .query(Boolean.class)
                .single();
        String name = taken ? profile.name() + " (" + profile.email() + ")" : profile.name();
        long id = unique(
                () -> jdbc.sql("insert into app_user (email, name, role, created_at) values (?, ?, ?, ?) returning id")
                        .params(
                                profile.email(),
                                name.substring(0, Math.min(LONGEST_NAME, name.length())),
                                profile.role().name(),
                                Rows.time(clock.instant()))
                        .query(Long.class)
                        .single());
        return get(id);
    }

    /** Gives somebody the role that their sign-in server tells; the last administrator stays one. */
    @Transactional
    public void follow(long id, Role role) {
        if (get(id).role() == role) {
            return;
        }
        if (role != Role.ADMIN && isLastAdministrator(id)) {
            return;
        }
        jdbc.sql("update app_user set role = ? where id = ?")
                .params(role.name(), id)
                .update();
    }

    UserAccount get(long id) {
        return accounts.findPerson(id).orElseThrow(() -> Problem.notFound("user " + id));
    }

    /** @param rights what differs from the role's: given (true) or taken away (false) */
    @Transactional
    UserAccount change(long id, Profile wanted, Map<Right, Boolean> rights) {
        Profile profile = wanted.valid();
        if (profile.role() != Role.ADMIN) {
            notTheLastAdministrator(id);
        }
        unique(() -> jdbc.sql("update app_user set email = ?, name = ?, role = ? where id = ?")
                .params(profile.email(), profile.name(), profile.role().name(), id)
                .update());
        jdbc.sql("delete from user_right where user_id = ?").param(id).update();
        rights.forEach((right, granted) -> jdbc.sql("insert into user_right (user_id, may, granted) values (?, ?, ?)")
                .params(id, right.name(), granted)
                .update());
        names.changed(id);
        return get(id);
    }

    /** @throws Problem if the name is not valid or taken */
    UserAccount rename(long id, String name) {
        UserAccount account = get(id);
        Profile profile = new Profile(account.email(), name, account.role()).valid();
        unique(() -> jdbc.sql("update app_user set name = ? where id = ?")
                .params(profile.name(), id)
                .update());
        names.changed(id);
        return get(id);
    }

    @Transactional
    UserAccount activate(long id, boolean active) {
        if (!active) {
            notTheLastAdministrator(id);
        }
        jdbc.sql("update app_user set active = ? where id = ?")
                .params(active, id)
                .update();
        return get(id);
    }

    /** Held until the transaction ends, so that two administrators cannot switch each other off at one moment. */
    private void notTheLastAdministrator(long id) {
        if (isLastAdministrator(id)) {
            throw Problem.conflict("This is the last active administrator. Give the role to someone else first.");
        }
    }

    private boolean isLastAdministrator(long id) {
        boolean another = jdbc
                .sql("select id from app_user where role = 'ADMIN' and active order by id for update")
                .query(Long.class)
                .list()
                .stream()
                .anyMatch(admin -> admin != id);
        return !another && get(id).role() == Role.ADMIN;
    }

    void setPassword(long id, String password) {
        UserAccount account = get(id);
        rules.check(password, new Profile(account.email(), account.name(), account.role()));
        jdbc.sql("update app_user set password_hash = ? where id = ?")
                .params(passwords.encode(password), id)
                .update();
    }

    boolean none() {
        return jdbc.sql("select count(*) from app_user where kind = 'PERSON'")
                        .query(Long.class)
                        .single()
                == 0;
    }

    Optional<Credentials> credentials(String email) {
        return jdbc.sql(
                        "select id, password_hash, active from app_user where email = lower(?) and password_hash is not null")
                .param(email.strip())
                .query((row, number) ->
                        new Credentials(row.getLong("id"), row.getString("password_hash"), row.getBoolean("active")))
                .optional();
    }

    Optional<Credentials> credentials(long id) {
        return accounts.findPerson(id).flatMap(account -> credentials(account.email()));
    }

    private interface Write<T> {
        T run();
    }

    private static <T> T unique(Write<T> write) {
        try {
            return write.run();
        } catch (DuplicateKeyException e) {
            throw new Problem(
                    org.springframework.http.HttpStatus.CONFLICT,
                    "Another user has this name or e-mail address.",
                    java.util.List.of());
        }
    }
}

package remitto.server.openid;

import java.time.Clock;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.access.Users;
import remitto.server.permission.Accounts;
import remitto.server.permission.Role;
import remitto.server.permission.UserAccount;
import remitto.server.platform.Rows;

/** Accounts of people whom a sign-in server knows. They are made when somebody comes first, and follow what it says after. */
@Component
class OpenIdAccounts {
    private final JdbcClient jdbc;
    private final Users users;
    private final Accounts accounts;
    private final Clock clock;

    OpenIdAccounts(JdbcClient jdbc, Users users, Accounts accounts, Clock clock) {
        this.jdbc = jdbc;
        this.users = users;
        this.accounts = accounts;
        this.clock = clock;
    }

    /** Whom a sign-in server tells of. */
    record Told(String issuer, String subject, String email, boolean emailVerified, String name, Role role) {}

    /**
     * The account of somebody, with the role that was told. An account that is there already by the same address is taken where the sign-in
     * server vouches for the address.
     *
     * @throws OpenIdFailure when the address is that of another account and is not vouched for
     */
    @Transactional
    public UserAccount of(Told told) {
        Optional<Long> known = jdbc.sql("select user_id from open_id_identity where issuer = ? and subject = ?")
                .params(told.issuer(), told.subject())
                .query(Long.class)
                .optional();
        long id = known.orElseGet(() -> link(told));
        users.follow(id, told.role());
        return accounts.findPerson(id).orElseThrow();
    }

    private long link(Told told) {
        Optional<Long> sameAddress = jdbc.sql("select id from app_user where email = lower(?)")
                .param(told.email())
                .query(Long.class)
                .optional();
        if (sameAddress.isPresent() && !told.emailVerified()) {
            throw new OpenIdFailure(
                    "There is an account with your address, and the sign-in server does not vouch that the address is yours.");
        }
        long id = sameAddress.orElseGet(
                () -> users.addWithoutPassword(new Users.Profile(told.email(), told.name(), told.role()))
                        .id());
        jdbc.sql("insert into open_id_identity (issuer, subject, user_id, linked_at) values (?, ?, ?, ?)")
                .params(told.issuer(), told.subject(), id, Rows.time(clock.instant()))
                .update();
        return id;
    }
}

package remitto.server.access;

import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import org.apache.commons.codec.digest.DigestUtils;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.permission.Role;
import remitto.server.permission.UserAccount;
import remitto.server.platform.ActorName;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Links by which people make their own account. Each works once, for a time, and is kept as a hash. */
@Component
class Invitations {
    static final Duration LASTS = Duration.ofDays(7);
    private static final int TOKEN_BYTES = 32;

    private final JdbcClient jdbc;
    private final Users users;
    private final Clock clock;
    private final SecureRandom random = new SecureRandom();

    Invitations(JdbcClient jdbc, Users users, Clock clock) {
        this.jdbc = jdbc;
        this.users = users;
        this.clock = clock;
    }

    /**
     * An invitation that is open.
     *
     * @param email blank when whoever opens the link says their own
     */
    record Invitation(
            long id, String email, Role role, @ActorName String madeBy, Instant madeAt, Instant expiresAt) {}

    /**
     * A link that was made.
     *
     * @param token what stands in the link; it cannot be told again
     * @param expiresAt from when on it leads nowhere
     */
    record MadeInvitation(String token, Instant expiresAt) {}

    MadeInvitation make(String email, Role role, String who, Duration lasts) {
        byte[] bytes = new byte[TOKEN_BYTES];
        random.nextBytes(bytes);
        String token = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
        Instant now = clock.instant();
        Instant until = now.plus(lasts);
        jdbc.sql("""
                        insert into invitation (token_hash, email, role, made_by, made_at, expires_at)
                        values (?, ?, ?, ?, ?, ?)
                        """)
                .params(hash(token), email, role.name(), who, Rows.time(now), Rows.time(until))
                .update();
        return new MadeInvitation(token, until);
    }

    private static byte[] hash(String token) {
        return DigestUtils.sha256(token.getBytes(StandardCharsets.UTF_8));
    }

    List<Invitation> open() {
        return jdbc.sql(
                        "select * from invitation where used_at is null and expires_at > ? order by made_at desc, id desc")
                .param(Rows.time(clock.instant()))
                .query((row, number) -> new Invitation(
                        row.getLong("id"),
                        row.getString("email"),
                        Role.valueOf(row.getString("role")),
                        row.getString("made_by"),
                        Rows.time(row, "made_at"),
                        Rows.time(row, "expires_at")))
                .list();
    }

    Optional<Invitation> of(String token) {
        return jdbc.sql("select id from invitation where token_hash = ?")
                .param(hash(token))
                .query(Long.class)
                .optional()
                .flatMap(id -> open().stream().filter(one -> one.id() == id).findFirst());
    }

    /** The link leads nowhere from now on; false when it was not open. */
    boolean withdraw(long id) {
        return jdbc.sql("update invitation set expires_at = ? where id = ? and used_at is null and expires_at > ?")
                        .params(Rows.time(clock.instant()), id, Rows.time(clock.instant()))
                        .update()
                > 0;
    }

    /**
     * Makes the account, and uses the link up.
     *
     * @param email counts where the invitation names none
     * @throws Problem when the link is not open, or something about the account is not valid
     */
    @Transactional
    public UserAccount accept(String token, String email, String name, String password) {
        Invitation invitation = of(token).orElseThrow(Invitations::notOpen);
        int used = jdbc.sql("update invitation set used_at = ? where id = ? and used_at is null")
                .params(Rows.time(clock.instant()), invitation.id())
                .update();
        if (used == 0) {
            throw notOpen();
        }
        return users.add(
                new Users.Profile(invitation.email().isEmpty() ? email : invitation.email(), name, invitation.role()),
                password);
    }

    /** The same whether it was used, has expired or never was. */
    static Problem notOpen() {
        return new Problem(
                org.springframework.http.HttpStatus.NOT_FOUND,
                "This link is not valid or no longer works. Ask for a new one.",
                List.of());
    }
}

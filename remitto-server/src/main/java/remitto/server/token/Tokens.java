package remitto.server.token;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.apache.commons.codec.digest.DigestUtils;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/**
 * Tokens of service accounts. A token is 256 random bits, so that its plain SHA-256 can be kept: there is nothing to guess that a
 * slower hash would protect.
 */
@Component
class Tokens {
    static final String PREFIX = "remitto_";
    static final Duration LONGEST = Duration.ofDays(366);

    private static final int TOKEN_BYTES = 32;
    private static final int TAIL = 4;
    private static final int LONGEST_NAME = 80;

    private final JdbcClient jdbc;
    private final Clock clock;
    private final SecureRandom random = new SecureRandom();
    /** Tokens whose use was noted within the last minute by this process. */
    private final Cache<Long, String> noted = Caffeine.newBuilder()
            .maximumSize(10_000)
            .expireAfterWrite(Duration.ofMinutes(1))
            .build();

    Tokens(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * A token to be made.
     *
     * @param name what it is for
     * @param scopes one or more
     * @param narrowing routes and destinations that are there; empty lists for all
     * @param expiresAt at most a year from now
     */
    record NewToken(String name, List<Scope> scopes, Narrowing narrowing, Instant expiresAt) {}

    /**
     * A token that was made.
     *
     * @param token what the program sends as {@code Authorization: Bearer}; it cannot be told again
     */
    record MadeToken(String token, ApiToken made) {}

    /** A token that somebody showed. */
    record ShownToken(long accountId, ApiToken token) {}

    /** @throws Problem that says what is wrong with what is wanted */
    MadeToken make(long account, NewToken wanted, String who) {
        Instant now = clock.instant();
        String name = wanted.name().strip();
        if (name.isEmpty() || name.length() > LONGEST_NAME) {
            throw Problem.invalid("Say in 1 to " + LONGEST_NAME + " characters what the token is for.");
        }
        if (wanted.scopes().isEmpty()) {
            throw Problem.invalid("Choose at least one scope.");
        }
        if (!wanted.expiresAt().isAfter(now) || wanted.expiresAt().isAfter(now.plus(LONGEST))) {
            throw Problem.invalid("A token expires after now, and within a year.");
        }
        if (!wanted.narrowing().isNone() && wanted.scopes().contains(Scope.ADMINISTER)) {
            throw Problem.invalid("The scope administer is about the whole installation and cannot be narrowed.");
        }
        known("route", wanted.narrowing().routeIds());
        known("destination", wanted.narrowing().destinationIds());
        byte[] bytes = new byte[TOKEN_BYTES];
        random.nextBytes(bytes);
        String token = PREFIX + Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
        long id = jdbc.sql("""
                        insert into api_token (account_id, name, token_hash, tail, scopes, route_ids, destination_ids, made_by, made_at,
                          expires_at)
                        values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?) returning id
                        """)
                .params(
                        account,
                        name,
                        hash(token),
                        token.substring(token.length() - TAIL),
                        wanted.scopes().stream()
                                .distinct()
                                .sorted()
                                .map(scope -> scope.name().toLowerCase(Locale.ROOT))
                                .toArray(String[]::new),
                        wanted.narrowing().routeIds().toArray(Long[]::new),
                        wanted.narrowing().destinationIds().toArray(Long[]::new),
                        who,
                        Rows.time(now),
                        Rows.time(wanted.expiresAt()))
                .query(Long.class)
                .single();
        return new MadeToken(token, get(account, id));
    }

    private void known(String table, List<Long> ids) {
        List<Long> there = jdbc.sql("select id from " + table + " where id = any (?)")
                .param(ids.toArray(Long[]::new))
                .query(Long.class)
                .list();
        ids.stream().filter(id -> !there.contains(id)).findFirst().ifPresent(id -> {
            throw Problem.invalid("There is no " + table + " " + id + ".");
        });
    }

    private static byte[] hash(String token) {
        return DigestUtils.sha256(token.getBytes(StandardCharsets.UTF_8));
    }

    /** Tokens of an account, the newest first. */
    List<ApiToken> of(long account) {
        return jdbc.sql("select * from api_token where account_id = ? order by id desc")
                .param(account)
                .query((row, number) -> token(row))
                .list();
    }

    ApiToken get(long account, long id) {
        return of(account).stream()
                .filter(token -> token.id() == id)
                .findFirst()
                .orElseThrow(() -> Problem.notFound("token " + id + " of this account"));
    }

    /** What was shown, if it is or once was a token. */
    Optional<ShownToken> shown(String token) {
        return jdbc.sql("select * from api_token where token_hash = ?")
                .param(hash(token))
                .query((row, number) -> new ShownToken(row.getLong("account_id"), token(row)))
                .optional();
    }

    /** Refused from now on; false when it already was. */
    boolean revoke(long account, long id, String who) {
        return jdbc.sql(
                                "update api_token set revoked_at = ?, revoked_by = ? where account_id = ? and id = ? and revoked_at is null")
                        .params(Rows.time(clock.instant()), who, account, id)
                        .update()
                > 0;
    }

    /** Notes the use of a token, once a minute. */
    void used(ApiToken token, String address) {
        if (noted.asMap().putIfAbsent(token.id(), address) == null) {
            jdbc.sql("update api_token set last_used_at = ?, last_used_from = ? where id = ?")
                    .params(Rows.time(clock.instant()), address, token.id())
                    .update();
        }
    }

    private static ApiToken token(ResultSet row) throws SQLException {
        return new ApiToken(
                row.getLong("id"),
                row.getString("name"),
                row.getString("tail"),
                Arrays.stream((String[]) row.getArray("scopes").getArray())
                        .map(Scope::of)
                        .toList(),
                new Narrowing(ids(row.getArray("route_ids")), ids(row.getArray("destination_ids"))),
                row.getString("made_by"),
                Rows.time(row, "made_at"),
                Rows.time(row, "expires_at"),
                Rows.optionalTime(row, "revoked_at"),
                Rows.optionalTime(row, "last_used_at"),
                Optional.ofNullable(row.getString("last_used_from")));
    }

    private static List<Long> ids(Array array) throws SQLException {
        return List.of((Long[]) array.getArray());
    }
}

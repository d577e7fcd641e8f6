package remitto.server.access;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Stream;
import org.apache.commons.codec.binary.Base32;
import org.apache.commons.codec.digest.DigestUtils;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.permission.UserAccount;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.secret.Place;
import remitto.server.secret.Secrets;

/** Second factors of people: codes of an authenticator, and recovery codes for whoever lost it. */
@Component
class SecondFactors {
    private static final String SECRET = "secret";
    private static final int SECRET_BYTES = 20;
    private static final int RECOVERY_CODES = 10;
    private static final int RECOVERY_BYTES = 10;

    private final JdbcClient jdbc;
    private final Secrets secrets;
    private final Clock clock;
    private final SecureRandom random = new SecureRandom();

    SecondFactors(JdbcClient jdbc, Secrets secrets, Clock clock) {
        this.jdbc = jdbc;
        this.secrets = secrets;
        this.clock = clock;
    }

    /**
     * Whether somebody signs in with a second factor.
     *
     * @param since empty while it is off
     * @param recoveryCodesLeft how many can still be used
     */
    record SecondFactor(Optional<Instant> since, int recoveryCodesLeft) {}

    /**
     * What an authenticator is set up with, told while it is being set up and never again.
     *
     * @param secret in Base32 (RFC 4648), for typing
     * @param uri the same as an {@code otpauth} address, for a picture to scan
     */
    record AuthenticatorSetup(String secret, String uri) {}

    /** Codes that each let in once, told once. */
    record RecoveryCodes(List<String> codes) {}

    private record Kept(byte[] secret, boolean confirmed, long lastStep) {}

    SecondFactor of(long user) {
        int left = jdbc.sql("select count(*) from recovery_code where user_id = ? and used_at is null")
                .param(user)
                .query(Integer.class)
                .single();
        return jdbc.sql("select confirmed_at from second_factor where user_id = ? and confirmed_at is not null")
                .param(user)
                .query((row, number) -> new SecondFactor(Optional.of(Rows.time(row, "confirmed_at")), left))
                .optional()
                .orElse(new SecondFactor(Optional.empty(), 0));
    }

    boolean isOn(long user) {
        return of(user).since().isPresent();
    }

    /** Makes a secret to set up an authenticator with. It is asked for once a code of it was right. */
    AuthenticatorSetup begin(UserAccount account) {
        if (isOn(account.id())) {
            throw Problem.conflict("The second factor is on already. Turn it off first.");
        }
        byte[] secret = new byte[SECRET_BYTES];
        random.nextBytes(secret);
        String text = new Base32().encodeToString(secret);
        jdbc.sql("""
                        insert into second_factor (user_id, sealed, begun_at) values (:user, :sealed, :now)
                        on conflict (user_id) do update set sealed = :sealed, begun_at = :now, last_step = 0
                        where second_factor.confirmed_at is null
                        """)
                .param("user", account.id())
                .param("sealed", secrets.seal(place(account.id()), Map.of(SECRET, text)))
                .param("now", Rows.time(clock.instant()))
                .update();
        String label = encoded("Remitto:" + account.email());
        return new AuthenticatorSetup(text, "otpauth://totp/" + label + "?secret=" + text + "&issuer=Remitto");
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
    }

    private static Place place(long user) {
        return Place.of("second_factor", user);
    }

    /** @throws Problem when the code is wrong, or nothing is being set up */
    @Transactional
    public RecoveryCodes confirm(long user, String code) {
        Kept kept = kept(user)
                .filter(one -> !one.confirmed())
                .orElseThrow(() -> Problem.conflict("No second factor is being set up. Begin again."));
        if (!takes(user, kept, digits(code))) {
            throw Problem.invalid(
                    "This code is wrong. Check the clock of the device and enter the code that it shows now.");
        }
        jdbc.sql("update second_factor set confirmed_at = ? where user_id = ?")
                .params(Rows.time(clock.instant()), user)
                .update();
        return freshRecoveryCodes(user);
    }

    /** Makes recovery codes. Those made before are worth nothing from then on. */
    @Transactional
    public RecoveryCodes freshRecoveryCodes(long user) {
        if (!isOn(user)) {
            throw Problem.conflict("The second factor is off.");
        }
        jdbc.sql("delete from recovery_code where user_id = ?").param(user).update();
        List<String> codes =
                Stream.generate(this::recoveryCode).limit(RECOVERY_CODES).toList();
        codes.forEach(code -> jdbc.sql("insert into recovery_code (user_id, code_hash) values (?, ?)")
                .params(user, hash(code))
                .update());
        return new RecoveryCodes(codes);
    }

    private String recoveryCode() {
        byte[] bytes = new byte[RECOVERY_BYTES];
        random.nextBytes(bytes);
        String text = new Base32().encodeToString(bytes);
        return String.join("-", text.substring(0, 4), text.substring(4, 8), text.substring(8, 12), text.substring(12));
    }

    /** 80 random bits, so that a plain hash of them tells nothing. */
    private static byte[] hash(String code) {
        return DigestUtils.sha256(
                code.toUpperCase(Locale.ROOT).replaceAll("[^A-Z0-9]", "").getBytes(StandardCharsets.US_ASCII));
    }

    /** Whether a code of the authenticator, or a recovery code, lets somebody in; it is used up by that. */
    @Transactional
    public boolean accept(long user, String code) {
        Optional<Kept> kept = kept(user).filter(Kept::confirmed);
        if (kept.isEmpty()) {
            return false;
        }
        String digits = digits(code);
        return digits.length() == OneTimeCodes.USUAL.digits()
                        && digits.length() == code.replaceAll("\\s", "").length()
                ? takes(user, kept.get(), digits)
                : jdbc.sql(
                                        "update recovery_code set used_at = ? where user_id = ? and code_hash = ? and used_at is null")
                                .params(Rows.time(clock.instant()), user, hash(code))
                                .update()
                        > 0;
    }

    private boolean takes(long user, Kept kept, String digits) {
        OptionalLong step = OneTimeCodes.USUAL.stepOf(kept.secret(), digits, clock.instant(), kept.lastStep());
        return step.isPresent()
                && jdbc.sql("update second_factor set last_step = ? where user_id = ? and last_step < ?")
                                .params(step.getAsLong(), user, step.getAsLong())
                                .update()
                        > 0;
    }

    private static String digits(String code) {
        return code.replaceAll("\\D", "");
    }

    private Optional<Kept> kept(long user) {
        return jdbc.sql("select * from second_factor where user_id = ?")
                .param(user)
                .query((row, number) -> new Kept(
                        new Base32()
                                .decode(secrets.open(place(user), row.getBytes("sealed"))
                                        .get(SECRET)),
                        row.getTimestamp("confirmed_at") != null,
                        row.getLong("last_step")))
                .optional();
    }

    /** @return false when it was off */
    @Transactional
    public boolean turnOff(long user) {
        jdbc.sql("delete from recovery_code where user_id = ?").param(user).update();
        return jdbc.sql("delete from second_factor where user_id = ? and confirmed_at is not null")
                        .param(user)
                        .update()
                > 0;
    }
}

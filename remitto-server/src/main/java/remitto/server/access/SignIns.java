package remitto.server.access;

import io.micrometer.core.instrument.MeterRegistry;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.http.HttpStatus;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;
import remitto.server.journal.Journal;
import remitto.server.permission.Accounts;
import remitto.server.permission.UserAccount;
import remitto.server.platform.Problem;

/** Lets people in by password. What costs nothing is looked at first; a password is hashed by few at a time. */
@Component
class SignIns {
    private static final int HASHES_AT_A_TIME = 4;
    /** Which part of a sign-in is missing or wrong. */
    private static final String SECOND_FACTOR = "second-factor";

    private static final Duration LONGEST_WAIT = Duration.ofSeconds(5);

    private final Users users;
    private final Accounts accounts;
    private final PasswordEncoder passwords;
    private final SignInLock lock;
    private final SecondFactors factors;
    private final Journal journal;
    private final MeterRegistry metrics;
    private final boolean takesPasswords;
    private final Semaphore hashing = new Semaphore(HASHES_AT_A_TIME, true);
    /** Checked where there is no account, so that its absence does not show in the time it takes. */
    private final String nobody;

    SignIns(
            Users users,
            Accounts accounts,
            PasswordEncoder passwords,
            SignInLock lock,
            SecondFactors factors,
            Journal journal,
            MeterRegistry metrics,
            @Value("${remitto.open-id.issuer}") String signInServer,
            @Value("${remitto.open-id.local-accounts}") boolean localAccounts) {
        this.users = users;
        this.accounts = accounts;
        this.passwords = passwords;
        this.lock = lock;
        this.factors = factors;
        this.journal = journal;
        this.metrics = metrics;
        this.takesPasswords = signInServer.isBlank() || localAccounts;
        this.nobody = String.valueOf(passwords.encode("the password of nobody"));
    }

    /**
     * @param code of the second factor, where the account has one; blank when none was entered
     * @throws Problem with 401 if they do not belong together, or if a code is missing; with 429 if there were too many failures before
     */
    UserAccount signIn(String email, String password, String code, String address) {
        if (!takesPasswords) {
            throw new Problem(
                    HttpStatus.FORBIDDEN,
                    "People sign in at the company's sign-in server here, not by a password.",
                    List.of());
        }
        SignInLock.Attempt attempt = new SignInLock.Attempt(email, address);
        lock.wait(attempt).ifPresent(wait -> {
            counted("locked");
            refuse(wait);
        });
        Optional<Users.Credentials> found = users.credentials(email);
        boolean right = password.length() <= PasswordRules.LONGEST
                && matches(password, found.map(Users.Credentials::passwordHash).orElse(nobody));
        Optional<UserAccount> account = found.flatMap(one -> accounts.find(one.id()));
        if (!right || account.filter(UserAccount::active).isEmpty()) {
            failed(attempt, account);
            throw new Problem(HttpStatus.UNAUTHORIZED, "E-mail or password is wrong.", List.of());
        }
        secondFactor(account.get(), code, attempt);
        lock.succeeded(attempt);
        counted("success");
        return account.get();
    }

    /** A missing code is no failure; a wrong one counts like a wrong password. */
    private void secondFactor(UserAccount account, String code, SignInLock.Attempt attempt) {
        if (!factors.isOn(account.id())) {
            return;
        }
        boolean missing = code.isBlank();
        if (missing || !factors.accept(account.id(), code)) {
            String words = missing
                    ? "Enter the code that your authenticator shows, or a recovery code."
                    : "The code is wrong or was used before. Enter the one that is shown now, or a recovery code.";
            if (!missing) {
                failed(attempt, Optional.of(account));
            }
            throw new Problem(HttpStatus.UNAUTHORIZED, words, List.of(new Problem.Detail(SECOND_FACTOR, words)));
        }
    }

    /** Whether a signed-in user's password is this; wrong ones count like those of a sign-in. */
    boolean isPassword(UserAccount account, String password, String address) {
        SignInLock.Attempt attempt = new SignInLock.Attempt(account.email(), address);
        lock.wait(attempt).ifPresent(SignIns::refuse);
        boolean right = password.length() <= PasswordRules.LONGEST
                && users.credentials(account.id())
                        .filter(one -> matches(password, one.passwordHash()))
                        .isPresent();
        if (!right) {
            failed(attempt, Optional.of(account));
        }
        return right;
    }

    void note(UserAccount account, String what, String address) {
        journal.write(
                Long.toString(account.id()),
                what,
                new Journal.Subject("user", account.id(), account.name()),
                "from " + address);
    }

    /** What was typed where there is no account may be a password, so it is not kept. */
    private void failed(SignInLock.Attempt attempt, Optional<UserAccount> account) {
        Optional<Duration> locked = lock.failed(attempt);
        counted("failure");
        Journal.Subject subject = account.map(one -> new Journal.Subject("user", one.id(), one.name()))
                .orElse(new Journal.Subject("user", 0, "unknown account"));
        journal.write("sign-in", "failed to sign in", subject, "from " + attempt.address());
        locked.ifPresent(time -> journal.write(
                "sign-in", "locked sign-in", subject, "from " + attempt.address() + " for " + time.toSeconds() + " s"));
    }

    private void counted(String result) {
        metrics.counter("remitto.sign.ins", "result", result).increment();
    }

    private boolean matches(String password, String hash) {
        try {
            if (!hashing.tryAcquire(LONGEST_WAIT.toSeconds(), TimeUnit.SECONDS)) {
                throw new Problem(
                        HttpStatus.SERVICE_UNAVAILABLE,
                        "Too many people are signing in. Try again shortly.",
                        List.of());
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted", e);
        }
        try {
            return passwords.matches(password, hash);
        } finally {
            hashing.release();
        }
    }

    private static void refuse(Duration wait) {
        throw new Problem(
                HttpStatus.TOO_MANY_REQUESTS,
                "There were too many failed sign-ins. Try again in " + Math.max(1, wait.toSeconds()) + " s.",
                List.of());
    }
}

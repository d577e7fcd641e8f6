package remitto.server.access;

import com.nulabinc.zxcvbn.Zxcvbn;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import remitto.server.platform.Problem;

/**
 * Which passwords are taken: long enough, and not among those that are guessed first. NIST SP 800-63B, 5.1.1.2: compare with
 * commonly used values, dictionary words and words of the context; no rules about kinds of characters.
 */
@Component
class PasswordRules {
    private static final int SHORTEST = 10;
    /** Longer ones take the hash long, and the estimate longer. */
    static final int LONGEST = 128;
    /** Of the library's scores from 0 to 4, the first that takes more than some ten million guesses. */
    private static final int GOOD_ENOUGH = 2;

    private final Zxcvbn estimates = new Zxcvbn();

    /** @throws Problem that says why the password is not taken */
    void check(String password, Users.Profile of) {
        if (password.length() < SHORTEST || password.length() > LONGEST) {
            throw Problem.invalid("A password has " + SHORTEST + " to " + LONGEST + " characters.");
        }
        List<String> context = new ArrayList<>(List.of(of.email(), of.name(), "remitto"));
        Stream.of(of.name().split("\\s+"), of.email().split("[@.]"))
                .flatMap(Arrays::stream)
                .forEach(context::add);
        if (estimates.measure(password, context).getScore() < GOOD_ENOUGH) {
            throw Problem.invalid("This password is easy to guess. Use several words that do not belong together.");
        }
    }
}

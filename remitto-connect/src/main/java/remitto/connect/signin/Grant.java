package remitto.connect.signin;

import java.util.Optional;
import java.util.function.UnaryOperator;

/** What a person allowed by signing in at the tool, kept where every process finds it. */
public interface Grant {
    /** @param refresh blank where the tool gives none: then a person signs in again when the access ends */
    record Tokens(String access, String refresh) {
        @Override
        public String toString() {
            return "Tokens[not shown]";
        }
    }

    /** Empty when nobody signed in. */
    Optional<Tokens> current();

    /**
     * The tokens that follow those that were used. One caller of all processes asks the tool for them, since many
     * tools take a refresh token only once.
     *
     * @param how asks the tool; what it throws ends the renewal and is passed on
     */
    Tokens renewed(Tokens used, UnaryOperator<Tokens> how);

    /** Nobody signed in, and nobody can. */
    Grant NONE = new Grant() {
        @Override
        public Optional<Tokens> current() {
            return Optional.empty();
        }

        @Override
        public Tokens renewed(Tokens used, UnaryOperator<Tokens> how) {
            return used;
        }
    };
}

package remitto.connect.profile;

import java.net.URI;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.destination.RateLimit;
import remitto.connect.signin.Grant.Tokens;
import remitto.connect.signin.Login;
import remitto.connect.signin.TokenCalls;

/** The sign-in of a person at a tool, from the address to go to until its tokens are here. */
public final class Delegation {
    private final TokenCalls calls;
    private final String tool;

    /** @param login names a way that a person signs in by */
    public Delegation(Profile profile, Login login, CallTools tools, RateLimit rateLimit) {
        Profile.Authentication how = profile.way(login.way());
        if (how.kind() != Profile.Authentication.Kind.DELEGATED) {
            throw new IllegalArgumentException(profile.title() + " is not signed in to by a person.");
        }
        this.tool = profile.title();
        this.calls = SignIns.calls(
                profile, how, login, new HttpTransport(profile, login, tools, rateLimit, CallWatcher.NONE));
    }

    /** Where the person signs in and allows the access. */
    public URI authorize(URI back, String state, String verifier) {
        return calls.authorize(back, state, verifier);
    }

    /** @throws DestinationProblem if the tool does not take the code, or does not answer */
    public Tokens byCode(String code, URI back, String verifier) {
        try {
            return calls.byCode(code, back, verifier);
        } catch (CallFailure | TokenCalls.NoTokenFailure e) {
            throw new DestinationProblem(Kind.UNREACHABLE, tool + " gave no token: " + e.getMessage());
        }
    }
}

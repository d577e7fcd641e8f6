package remitto.connect.signin;

import java.net.http.HttpRequest;
import java.util.Map;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.signin.Grant.Tokens;

/** Tokens of a person who signed in at the tool itself, renewed in place (RFC 6749, section 6). */
public final class DelegatedSignIn implements SignIn {
    private final TokenCalls calls;
    private final Grant grant;

    public DelegatedSignIn(TokenCalls calls, Grant grant) {
        this.calls = calls;
        this.grant = grant;
    }

    @Override
    public String sign(HttpRequest.Builder request, Map<String, String> headers, byte[] body) {
        String access = current().access();
        request.setHeader("Authorization", "Bearer " + access);
        return access;
    }

    private Tokens current() {
        return grant.current().orElseThrow(() -> new DestinationProblem(Kind.SIGN_IN_REFUSED, calls.nobodySignedIn()));
    }

    @Override
    public boolean renew(String used) {
        Tokens tokens = current();
        if (tokens.access().equals(used)) {
            grant.renewed(tokens, calls::refreshed);
        }
        return true;
    }
}

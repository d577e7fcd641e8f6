package remitto.connect.signin;

import java.net.http.HttpRequest;
import java.util.Map;
import java.util.Optional;
import remitto.connect.signin.Grant.Tokens;

/** A token by OAuth 2.0 client credentials (RFC 6749, section 4.4), fetched when it is needed. */
public final class ClientSignIn implements SignIn {
    private final TokenCalls calls;
    private volatile Optional<String> token = Optional.empty();

    public ClientSignIn(TokenCalls calls) {
        this.calls = calls;
    }

    @Override
    public String sign(HttpRequest.Builder request, Map<String, String> headers, byte[] body) {
        String current = token.orElseGet(this::fetch);
        request.setHeader("Authorization", "Bearer " + current);
        return current;
    }

    private synchronized String fetch() {
        if (token.isEmpty()) {
            token = Optional.of(calls.byClient()).map(Tokens::access);
        }
        return token.orElseThrow();
    }

    @Override
    public synchronized boolean renew(String used) {
        if (token.filter(used::equals).isPresent()) {
            token = Optional.empty();
        }
        return true;
    }
}

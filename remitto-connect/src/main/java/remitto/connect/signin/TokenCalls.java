package remitto.connect.signin;

import com.nimbusds.oauth2.sdk.AuthorizationCode;
import com.nimbusds.oauth2.sdk.AuthorizationCodeGrant;
import com.nimbusds.oauth2.sdk.AuthorizationGrant;
import com.nimbusds.oauth2.sdk.AuthorizationRequest;
import com.nimbusds.oauth2.sdk.ClientCredentialsGrant;
import com.nimbusds.oauth2.sdk.ParseException;
import com.nimbusds.oauth2.sdk.RefreshTokenGrant;
import com.nimbusds.oauth2.sdk.ResponseType;
import com.nimbusds.oauth2.sdk.Scope;
import com.nimbusds.oauth2.sdk.TokenRequest;
import com.nimbusds.oauth2.sdk.TokenResponse;
import com.nimbusds.oauth2.sdk.auth.ClientSecretBasic;
import com.nimbusds.oauth2.sdk.auth.Secret;
import com.nimbusds.oauth2.sdk.http.HTTPRequest;
import com.nimbusds.oauth2.sdk.http.HTTPResponse;
import com.nimbusds.oauth2.sdk.id.ClientID;
import com.nimbusds.oauth2.sdk.id.State;
import com.nimbusds.oauth2.sdk.pkce.CodeChallengeMethod;
import com.nimbusds.oauth2.sdk.pkce.CodeVerifier;
import com.nimbusds.oauth2.sdk.token.RefreshToken;
import java.net.URI;
import java.net.http.HttpRequest;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.signin.Grant.Tokens;

/** The calls of OAuth 2.0 (RFC 6749) with PKCE (RFC 7636) against one tool. */
public final class TokenCalls {
    private final String tool;
    private final Client client;
    private final Exchanger exchanger;

    /**
     * Who asks.
     *
     * @param secret blank for a public client, which is known by its id alone
     * @param tokenPath a path of the tool or a full address, as is {@code authorizePath}
     * @param scope what is asked for, names separated by spaces; blank for what the tool gives unasked
     */
    public record Client(String id, String secret, String tokenPath, String authorizePath, String scope) {
        @Override
        public String toString() {
            return "Client[" + id + "]";
        }
    }

    public TokenCalls(String tool, Client client, Exchanger exchanger) {
        this.tool = tool;
        this.client = client;
        this.exchanger = exchanger;
    }

    /** A fresh secret that binds the code to who asked for it. */
    public static String verifier() {
        return new CodeVerifier().getValue();
    }

    /**
     * Where a person signs in and allows the access.
     *
     * @param back where the tool sends the person afterwards
     * @param state comes back unchanged and tells which sign-in it was
     */
    public URI authorize(URI back, String state, String verifier) {
        var request = new AuthorizationRequest.Builder(ResponseType.CODE, new ClientID(client.id()))
                .endpointURI(exchanger.address(client.authorizePath()))
                .redirectionURI(back)
                .state(new State(state))
                .codeChallenge(new CodeVerifier(verifier), CodeChallengeMethod.S256);
        if (!client.scope().isBlank()) {
            request.scope(Scope.parse(client.scope()));
        }
        return request.build().toURI();
    }

    /** Tokens for the code a person came back with. */
    public Tokens byCode(String code, URI back, String verifier) {
        return granted(
                new AuthorizationCodeGrant(new AuthorizationCode(code), back, new CodeVerifier(verifier)),
                tool + " does not take the code it gave; start the sign-in again.");
    }

    Tokens byClient() {
        return granted(
                new ClientCredentialsGrant(), tool + " refused to sign in: the client id or its secret is wrong.");
    }

    /** The tokens that follow; the refresh token stays the same where the tool gives no new one. */
    Tokens refreshed(Tokens used) {
        String over = "The sign-in at " + tool + " has ended; sign in again on the destination's page.";
        if (used.refresh().isEmpty()) {
            throw new DestinationProblem(Kind.SIGN_IN_REFUSED, over);
        }
        Tokens fresh = granted(new RefreshTokenGrant(new RefreshToken(used.refresh())), over);
        return fresh.refresh().isEmpty() ? new Tokens(fresh.access(), used.refresh()) : fresh;
    }

    String nobodySignedIn() {
        return "Nobody has signed in to " + tool + " yet; sign in on the destination's page.";
    }

    private Tokens granted(AuthorizationGrant grant, String refused) {
        URI address = exchanger.address(client.tokenPath());
        ClientID id = new ClientID(client.id());
        TokenRequest.Builder asked = client.secret().isEmpty()
                ? new TokenRequest.Builder(address, id, grant)
                : new TokenRequest.Builder(address, new ClientSecretBasic(id, new Secret(client.secret())), grant);
        if (grant instanceof ClientCredentialsGrant && !client.scope().isBlank()) {
            asked.scope(Scope.parse(client.scope()));
        }
        Exchanger.Answer answer = exchanger.exchange(call(asked.build().toHTTPRequest()));
        if (answer.status() == 400 || answer.status() == 401) {
            throw new DestinationProblem(Kind.SIGN_IN_REFUSED, refused);
        }
        try {
            return tokens(answer);
        } catch (ParseException e) {
            throw new NoTokenFailure("signing in to " + tool + " answered " + answer.status()
                    + " and no token that can be read (" + e.getMessage() + ")");
        }
    }

    private static HttpRequest.Builder call(HTTPRequest request) {
        HttpRequest.Builder call =
                HttpRequest.newBuilder(request.getURI()).POST(HttpRequest.BodyPublishers.ofString(request.getBody()));
        request.getHeaderMap().forEach((name, values) -> values.forEach(value -> call.header(name, value)));
        return call;
    }

    private static Tokens tokens(Exchanger.Answer answer) throws ParseException {
        HTTPResponse response = new HTTPResponse(answer.status());
        response.setHeader("Content-Type", "application/json");
        response.setBody(answer.body());
        var told = TokenResponse.parse(response);
        if (!told.indicatesSuccess()) {
            throw new ParseException("an error");
        }
        var given = told.toSuccessResponse().getTokens();
        RefreshToken refresh = given.getRefreshToken();
        return new Tokens(given.getAccessToken().getValue(), refresh == null ? "" : refresh.getValue());
    }

    /** The tool gave no token, for a reason that may pass. */
    public static final class NoTokenFailure extends RuntimeException {
        NoTokenFailure(String message) {
            super(message);
        }
    }
}

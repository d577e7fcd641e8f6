package remitto.server.openid;

import com.nimbusds.jose.JOSEException;
import com.nimbusds.jose.JWSAlgorithm;
import com.nimbusds.jose.jwk.source.JWKSourceBuilder;
import com.nimbusds.jose.proc.BadJOSEException;
import com.nimbusds.jose.proc.JWSVerificationKeySelector;
import com.nimbusds.oauth2.sdk.AuthorizationCode;
import com.nimbusds.oauth2.sdk.AuthorizationCodeGrant;
import com.nimbusds.oauth2.sdk.GeneralException;
import com.nimbusds.oauth2.sdk.ParseException;
import com.nimbusds.oauth2.sdk.ResponseType;
import com.nimbusds.oauth2.sdk.Scope;
import com.nimbusds.oauth2.sdk.TokenRequest;
import com.nimbusds.oauth2.sdk.TokenResponse;
import com.nimbusds.oauth2.sdk.auth.ClientSecretBasic;
import com.nimbusds.oauth2.sdk.auth.Secret;
import com.nimbusds.oauth2.sdk.http.HTTPRequest;
import com.nimbusds.oauth2.sdk.id.ClientID;
import com.nimbusds.oauth2.sdk.id.Issuer;
import com.nimbusds.oauth2.sdk.id.State;
import com.nimbusds.oauth2.sdk.pkce.CodeChallengeMethod;
import com.nimbusds.oauth2.sdk.pkce.CodeVerifier;
import com.nimbusds.openid.connect.sdk.AuthenticationRequest;
import com.nimbusds.openid.connect.sdk.Nonce;
import com.nimbusds.openid.connect.sdk.OIDCTokenResponseParser;
import com.nimbusds.openid.connect.sdk.claims.IDTokenClaimsSet;
import com.nimbusds.openid.connect.sdk.op.OIDCProviderMetadata;
import com.nimbusds.openid.connect.sdk.validators.IDTokenValidator;
import java.io.IOException;
import java.net.MalformedURLException;
import java.net.URI;
import java.time.Duration;
import java.util.Set;

/** A sign-in server, spoken to as OpenID Connect Core 1.0 says: authorization code with PKCE (RFC 7636), ID token checked here. */
final class OpenIdProvider {
    private static final int WAIT_MILLIS = (int) Duration.ofSeconds(8).toMillis();
    private static final int MOST_SKEW_SECONDS = 60;
    private static final Set<JWSAlgorithm> ALGORITHMS =
            Set.of(JWSAlgorithm.RS256, JWSAlgorithm.PS256, JWSAlgorithm.ES256);

    private final OpenIdSettings settings;
    private final OIDCProviderMetadata metadata;

    private OpenIdProvider(OpenIdSettings settings, OIDCProviderMetadata metadata) {
        this.settings = settings;
        this.metadata = metadata;
    }

    /** @throws OpenIdFailure when it does not answer, or not as a sign-in server */
    static OpenIdProvider found(OpenIdSettings settings) {
        try {
            return new OpenIdProvider(
                    settings, OIDCProviderMetadata.resolve(new Issuer(settings.issuer()), WAIT_MILLIS, WAIT_MILLIS));
        } catch (GeneralException | IOException e) {
            throw new OpenIdFailure(
                    "The sign-in server does not answer. Try again shortly; if it stays so, an administrator can see why in the log.",
                    e);
        }
    }

    /** What one sign-in is held together by; known to this server and to nobody else until it ends. */
    record Attempt(String state, String nonce, String verifier) {
        static Attempt fresh() {
            return new Attempt(new State().getValue(), new Nonce().getValue(), new CodeVerifier().getValue());
        }
    }

    URI authorize(Attempt attempt, URI back) {
        return new AuthenticationRequest.Builder(
                        new ResponseType(ResponseType.Value.CODE),
                        new Scope("openid", "profile", "email"),
                        new ClientID(settings.clientId()),
                        back)
                .endpointURI(metadata.getAuthorizationEndpointURI())
                .state(new State(attempt.state()))
                .nonce(new Nonce(attempt.nonce()))
                .codeChallenge(new CodeVerifier(attempt.verifier()), CodeChallengeMethod.S256)
                .build()
                .toURI();
    }

    /** @throws OpenIdFailure that says what is wrong with the answer */
    IDTokenClaimsSet claims(String code, Attempt attempt, URI back) {
        try {
            AuthorizationCodeGrant grant =
                    new AuthorizationCodeGrant(new AuthorizationCode(code), back, new CodeVerifier(attempt.verifier()));
            ClientID client = new ClientID(settings.clientId());
            TokenRequest request = settings.clientSecret().isBlank()
                    ? new TokenRequest.Builder(metadata.getTokenEndpointURI(), client, grant).build()
                    : new TokenRequest.Builder(
                                    metadata.getTokenEndpointURI(),
                                    new ClientSecretBasic(client, new Secret(settings.clientSecret())),
                                    grant)
                            .build();
            HTTPRequest http = request.toHTTPRequest();
            http.setConnectTimeout(WAIT_MILLIS);
            http.setReadTimeout(WAIT_MILLIS);
            TokenResponse answer = OIDCTokenResponseParser.parse(http.send());
            if (!answer.indicatesSuccess()) {
                throw new OpenIdFailure("The sign-in server refused the sign-in: "
                        + answer.toErrorResponse().getErrorObject().getDescription());
            }
            return validator(client)
                    .validate(
                            answer.toSuccessResponse()
                                    .getTokens()
                                    .toOIDCTokens()
                                    .getIDToken(),
                            new Nonce(attempt.nonce()));
        } catch (IOException e) {
            throw new OpenIdFailure("The sign-in server does not answer. Try again shortly.", e);
        } catch (ParseException e) {
            throw new OpenIdFailure("The sign-in server answered in a form that is none of OpenID Connect.", e);
        } catch (BadJOSEException | JOSEException e) {
            throw new OpenIdFailure(
                    "What the sign-in server says of you cannot be relied on: " + e.getMessage()
                            + ". An administrator should compare its settings and its clock with those of this server.",
                    e);
        }
    }

    private IDTokenValidator validator(ClientID client) throws MalformedURLException {
        IDTokenValidator validator = new IDTokenValidator(
                metadata.getIssuer(),
                client,
                new JWSVerificationKeySelector<>(
                        ALGORITHMS,
                        JWKSourceBuilder.create(metadata.getJWKSetURI().toURL()).build()),
                null);
        validator.setMaxClockSkew(MOST_SKEW_SECONDS);
        return validator;
    }
}

package remitto.connect.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.net.URI;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.RateLimit;
import remitto.connect.profile.ToolServer.Told;
import remitto.connect.signin.Grant;
import remitto.connect.signin.Grant.Tokens;
import remitto.connect.signin.Login;
import remitto.core.delivery.Backoff;

/** The ways calls are signed in. */
class SignInTest {
    private final ToolServer tool = new ToolServer();

    @AfterEach
    void stop() {
        tool.close();
    }

    private ProfileDestination destination(String authentication, String way, Grant grant) {
        String profile = ProfileReader.resource("gangway-support.yaml")
                .replaceFirst("(?s)authentication:.*?\nlimits:", "authentication: " + authentication + "\nlimits:");
        Map<String, String> settings = new HashMap<>(Map.of(
                "base_address",
                tool.address(),
                "pass",
                "s3cret",
                "user",
                "Åse:x",
                "client",
                "cid",
                "client_key",
                "ck"));
        return new ProfileDestination(
                new ProfileReader().read(profile),
                new Login(way, settings, grant),
                TestTools.with(Clock.systemUTC()),
                RateLimit.NONE,
                new Backoff(Duration.ofMillis(1), Duration.ofMillis(2), 2));
    }

    private String headerOf(String authentication, String way, String name) {
        tool.on("/g/desk", asked -> Told.json("{}"));
        destination(authentication, way, Grant.NONE).check();
        return tool.asked().get(tool.asked().size() - 1).header(name);
    }

    @Test
    void aBearerTokenGoesAsItIs() {
        assertThat(headerOf("{kind: bearer, key: pass}", "", "Authorization")).isEqualTo("Bearer s3cret");
    }

    /** RFC 7617, section 2.1: with charset UTF-8 the pair is encoded in UTF-8. */
    @Test
    void basicIsUserAndPasswordInUtf8() {
        assertThat(headerOf("{kind: basic, user: user, password: pass}", "", "Authorization"))
                .isEqualTo("Basic w4VzZTp4OnMzY3JldA==");
    }

    @Test
    void oneOfSeveralWaysIsChosenByName() {
        String ways = "\n  - {name: key, title: A key, kind: api-key, header: X-Key, key: pass}"
                + "\n  - {name: token, title: A token, kind: bearer, key: pass}";
        assertThat(headerOf(ways, "token", "Authorization")).isEqualTo("Bearer s3cret");
        assertThat(headerOf(ways, "", "X-Key")).isEqualTo("s3cret");
    }

    /** A grant in memory that counts how often it was renewed. */
    private static final class KeptGrant implements Grant {
        private final AtomicReference<Optional<Tokens>> kept;
        private int renewals;

        KeptGrant(Optional<Tokens> first) {
            this.kept = new AtomicReference<>(first);
        }

        @Override
        public Optional<Tokens> current() {
            return kept.get();
        }

        @Override
        public Tokens renewed(Tokens used, UnaryOperator<Tokens> how) {
            renewals++;
            Tokens fresh = how.apply(used);
            kept.set(Optional.of(fresh));
            return fresh;
        }
    }

    private static final String DELEGATED =
            "{kind: oauth2-code, authorize_path: /sign-in, token_path: /token, client_id: client, scope: \"read write\"}";

    @Test
    void anExpiredTokenIsRenewedInPlaceAndTheCallMadeAgain() {
        KeptGrant grant = new KeptGrant(Optional.of(new Tokens("old", "r1")));
        tool.on(
                "/g/desk",
                asked -> asked.header("Authorization").equals("Bearer new")
                        ? Told.json("{\"desk\":\"Halvorn\"}")
                        : Told.refused(401));
        tool.on(
                "/token",
                asked -> asked.body().contains("refresh_token=r1")
                                && asked.body().contains("client_id=cid")
                        ? Told.json("{\"access_token\":\"new\",\"token_type\":\"Bearer\",\"refresh_token\":\"r2\"}")
                        : Told.refused(400));
        assertThat(destination(DELEGATED, "", grant).check()).contains("Halvorn");
        assertThat(grant.renewals).isEqualTo(1);
        assertThat(grant.current()).contains(new Tokens("new", "r2"));
    }

    @Test
    void withoutANewRefreshTokenTheOldOneIsKept() {
        KeptGrant grant = new KeptGrant(Optional.of(new Tokens("old", "r1")));
        tool.on(
                "/g/desk",
                asked -> asked.header("Authorization").equals("Bearer new") ? Told.json("{}") : Told.refused(401));
        tool.on("/token", asked -> Told.json("{\"access_token\":\"new\",\"token_type\":\"Bearer\"}"));
        destination(DELEGATED, "", grant).check();
        assertThat(grant.current()).contains(new Tokens("new", "r1"));
    }

    @Test
    void aSignInThatEndedIsSaidWithWhatToDo() {
        KeptGrant grant = new KeptGrant(Optional.of(new Tokens("old", "r1")));
        tool.on("/g/desk", asked -> Told.refused(401));
        tool.on("/token", asked -> new Told(400, Map.of(), "{\"error\":\"invalid_grant\"}"));
        assertThatThrownBy(() -> destination(DELEGATED, "", grant).check())
                .isInstanceOfSatisfying(DestinationProblem.class, problem -> assertThat(problem.kind())
                        .isEqualTo(DestinationProblem.Kind.SIGN_IN_REFUSED))
                .hasMessageContaining("sign in again");
        assertThatThrownBy(() -> destination(DELEGATED, "", new KeptGrant(Optional.empty()))
                        .check())
                .hasMessageContaining("Nobody has signed in");
    }

    private Delegation delegation(String authentication) {
        String profile = ProfileReader.resource("gangway-support.yaml")
                .replaceFirst("(?s)authentication:.*?\nlimits:", "authentication: " + authentication + "\nlimits:");
        return new Delegation(
                new ProfileReader().read(profile),
                new Login("", Map.of("base_address", tool.address(), "client", "cid", "client_key", "ck"), Grant.NONE),
                TestTools.with(Clock.systemUTC()),
                RateLimit.NONE);
    }

    /** RFC 7636, appendix B: this verifier has this S256 challenge. */
    @Test
    void theChallengeIsTheOneOfTheStandardsExample() {
        String address = delegation(DELEGATED)
                .authorize(
                        URI.create("http://127.0.0.1:1/back"), "state-1", "dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk")
                .toString();
        assertThat(address)
                .startsWith(tool.address() + "/sign-in?")
                .contains("code_challenge=E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM")
                .contains("code_challenge_method=S256")
                .contains("response_type=code")
                .contains("client_id=cid")
                .contains("state=state-1");
        assertThat(URLDecoder.decode(address, StandardCharsets.UTF_8))
                .contains("redirect_uri=http://127.0.0.1:1/back")
                .contains("scope=read write");
    }

    @Test
    void aCodeIsTakenOnceForTokensWithItsVerifier() {
        tool.on("/token", asked -> {
            String body = URLDecoder.decode(asked.body(), StandardCharsets.UTF_8);
            assertThat(body)
                    .contains("grant_type=authorization_code")
                    .contains("code=c-1")
                    .contains("code_verifier=dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk")
                    .contains("redirect_uri=http://127.0.0.1:1/back");
            assertThat(asked.header("Authorization")).startsWith("Basic ");
            return Told.json("{\"access_token\":\"a\",\"token_type\":\"Bearer\",\"refresh_token\":\"r\"}");
        });
        Tokens tokens = delegation(
                        DELEGATED.replace("client_id: client,", "client_id: client, client_secret: client_key,"))
                .byCode("c-1", URI.create("http://127.0.0.1:1/back"), "dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk");
        assertThat(tokens).isEqualTo(new Tokens("a", "r"));
        assertThat(tokens.toString()).doesNotContain("r]").contains("not shown");
    }
}

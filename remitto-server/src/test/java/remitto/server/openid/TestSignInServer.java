package remitto.server.openid;

import com.nimbusds.jose.JOSEException;
import com.nimbusds.jose.JWSAlgorithm;
import com.nimbusds.jose.JWSHeader;
import com.nimbusds.jose.crypto.RSASSASigner;
import com.nimbusds.jose.jwk.JWKSet;
import com.nimbusds.jose.jwk.RSAKey;
import com.nimbusds.jose.jwk.gen.RSAKeyGenerator;
import com.nimbusds.jwt.JWTClaimsSet;
import com.nimbusds.jwt.SignedJWT;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Base64;
import java.util.Date;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/** A sign-in server as OpenID Connect Core 1.0 and Discovery 1.0 say, which also answers wrongly where a test wants it. */
final class TestSignInServer implements AutoCloseable {
    static final String CLIENT = "remitto-test";

    private final HttpServer http;
    private final RSAKey key;
    private final Map<String, Begun> begun = new ConcurrentHashMap<>();

    /** What a code was given for. */
    private record Begun(String challenge, JWTClaimsSet claims, RSAKey signedWith) {}

    TestSignInServer() throws Exception {
        key = new RSAKeyGenerator(2048).keyID("first").generate();
        http = HttpServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
        http.createContext(
                "/.well-known/openid-configuration", exchange -> answer(exchange, 200, """
                {"issuer": "%1$s", "authorization_endpoint": "%1$s/authorize", "token_endpoint": "%1$s/token",
                 "jwks_uri": "%1$s/keys", "response_types_supported": ["code"], "subject_types_supported": ["public"],
                 "id_token_signing_alg_values_supported": ["RS256"]}
                """.formatted(issuer())));
        http.createContext("/keys", exchange -> answer(exchange, 200, new JWKSet(key.toPublicJWK()).toString()));
        http.createContext("/token", this::token);
        http.start();
    }

    String issuer() {
        return "http://127.0.0.1:" + http.getAddress().getPort();
    }

    RSAKey key() {
        return key;
    }

    static Map<String, String> query(String text) {
        return Arrays.stream(text.split("&"))
                .map(pair -> pair.split("=", 2))
                .collect(Collectors.toMap(pair -> pair[0], pair -> URLDecoder.decode(pair[1], StandardCharsets.UTF_8)));
    }

    /**
     * Somebody signs in at the address that the product gave.
     *
     * @param told changes what is told of them
     * @return what the browser comes back with, as a query
     */
    String signIn(URI address, Person person, UnaryOperator<JWTClaimsSet.Builder> told, RSAKey signedWith) {
        Map<String, String> asked = query(address.getRawQuery());
        Date now = Date.from(Instant.now());
        JWTClaimsSet.Builder claims = new JWTClaimsSet.Builder()
                .issuer(issuer())
                .audience(CLIENT)
                .subject(person.subject())
                .issueTime(now)
                .expirationTime(Date.from(now.toInstant().plusSeconds(300)))
                .claim("nonce", asked.get("nonce"))
                .claim("email", person.email())
                .claim("email_verified", person.verified())
                .claim("name", person.name())
                .claim("roles", person.roles());
        String code = UUID.randomUUID().toString();
        begun.put(
                code, new Begun(asked.get("code_challenge"), told.apply(claims).build(), signedWith));
        return "state=" + asked.get("state") + "&code=" + code;
    }

    /** Whom it knows. */
    record Person(String subject, String email, boolean verified, String name, List<String> roles) {}

    /** RFC 7636, section 4.6: the verifier has to be what the challenge was made of. A code counts once. */
    private void token(HttpExchange exchange) throws IOException {
        Map<String, String> asked = query(new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8));
        Begun one = begun.remove(asked.getOrDefault("code", ""));
        if (one == null || !one.challenge().equals(challenge(asked.getOrDefault("code_verifier", "")))) {
            answer(exchange, 400, "{\"error\": \"invalid_grant\", \"error_description\": \"the code is not known\"}");
            return;
        }
        try {
            SignedJWT token = new SignedJWT(
                    new JWSHeader.Builder(JWSAlgorithm.RS256).keyID("first").build(), one.claims());
            token.sign(new RSASSASigner(one.signedWith()));
            answer(
                    exchange,
                    200,
                    "{\"access_token\": \"unused\", \"token_type\": \"Bearer\", \"expires_in\": 300, \"id_token\": \""
                            + token.serialize() + "\"}");
        } catch (JOSEException e) {
            throw new IOException(e);
        }
    }

    static String challenge(String verifier) {
        try {
            return Base64.getUrlEncoder()
                    .withoutPadding()
                    .encodeToString(
                            MessageDigest.getInstance("SHA-256").digest(verifier.getBytes(StandardCharsets.US_ASCII)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    private static void answer(HttpExchange exchange, int status, String json) throws IOException {
        byte[] body = json.getBytes(StandardCharsets.UTF_8);
        exchange.getResponseHeaders().add("Content-Type", "application/json");
        exchange.sendResponseHeaders(status, body.length);
        exchange.getResponseBody().write(body);
        exchange.close();
    }

    Map<String, Object> settings() {
        Map<String, Object> settings = new HashMap<>();
        settings.put("remitto.open-id.issuer", issuer());
        settings.put("remitto.open-id.client-id", CLIENT);
        settings.put("remitto.open-id.name", "Quay account");
        settings.put("remitto.open-id.roles", "quay-editors=EDITOR,quay-admins=ADMIN,quay-all=VIEWER");
        return settings;
    }

    @Override
    public void close() {
        http.stop(0);
    }
}

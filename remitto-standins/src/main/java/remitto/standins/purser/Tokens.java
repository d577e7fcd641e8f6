package remitto.standins.purser;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.time.Duration;
import java.util.Base64;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import remitto.standins.store.DurableLog;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/**
 * Tokens by OAuth 2.0 (RFC 6749): by client credentials, by code with PKCE (RFC 7636), and by refresh tokens that serve
 * once. Access tokens and codes last for a monotonic time and are lost at a restart; refresh tokens are kept.
 */
final class Tokens implements AutoCloseable {
    static final Duration LIFE = Duration.ofMinutes(15);
    private static final Duration CODE_LIFE = Duration.ofMinutes(2);

    /**
     * Who calls.
     *
     * @param client the program
     * @param login for whom it acts
     */
    record Visitor(String client, Logins.Login login) {}

    /** @param refresh blank for a program that acts for itself */
    record Given(String access, String refresh) {}

    /** What a program asks with when it sends a person to sign in. */
    record Asked(String client, String redirect, String challenge) {}

    private record Issued(Visitor visitor, long untilNanos) {}

    private record Code(Asked asked, Logins.Login login, long untilNanos) {}

    private final Map<String, String> secrets;
    private final Map<String, Issued> issued = new ConcurrentHashMap<>();
    private final Map<String, Code> codes = new ConcurrentHashMap<>();
    private final Map<String, Visitor> refresh = new HashMap<>();
    private final SecureRandom random = new SecureRandom();
    private final DurableLog log;
    private final ObjectMapper json;

    Tokens(Map<String, String> secrets, Path grants, ObjectMapper json) {
        this.secrets = Map.copyOf(secrets);
        this.json = json;
        this.log = new DurableLog(grants, json, this::replay);
    }

    private void replay(JsonNode line) {
        refresh.remove(line.path("used").asString(""));
        Logins.named(line.path("login").asString(""))
                .ifPresent(login -> refresh.put(
                        line.path("refresh").asString(""),
                        new Visitor(line.path("client").asString(""), login)));
    }

    boolean knows(String client) {
        return secrets.containsKey(client);
    }

    /** The client an HTTP Basic header stands for, if its secret is right. */
    Optional<String> client(String authorization) {
        if (!authorization.startsWith("Basic ")) {
            return Optional.empty();
        }
        try {
            String pair = new String(Base64.getDecoder().decode(authorization.substring(6)), StandardCharsets.UTF_8);
            int colon = pair.indexOf(':');
            String id = pair.substring(0, colon);
            return pair.substring(colon + 1).equals(secrets.get(id)) ? Optional.of(id) : Optional.empty();
        } catch (IllegalArgumentException | IndexOutOfBoundsException e) {
            return Optional.empty();
        }
    }

    Given toClient(String client) {
        return new Given(access(new Visitor(client, Logins.program(client))), "");
    }

    String code(Asked asked, Logins.Login login) {
        String code = secret();
        codes.put(code, new Code(asked, login, System.nanoTime() + CODE_LIFE.toNanos()));
        return code;
    }

    /** A code serves once, for the program that asked for it and knows the verifier. */
    synchronized Optional<Given> byCode(String client, String code, String redirect, String verifier) {
        return Optional.ofNullable(codes.remove(code))
                .filter(one -> one.untilNanos() - System.nanoTime() > 0)
                .filter(one -> one.asked().equals(new Asked(client, redirect, challenge(verifier))))
                .map(one -> given("", new Visitor(client, one.login())));
    }

    synchronized Optional<Given> byRefresh(String client, String token) {
        return Optional.ofNullable(refresh.get(token))
                .filter(visitor -> visitor.client().equals(client))
                .map(visitor -> given(token, visitor));
    }

    private Given given(String used, Visitor visitor) {
        Given given = new Given(access(visitor), secret());
        refresh.remove(used);
        refresh.put(given.refresh(), visitor);
        log.append(json.createObjectNode()
                .put("used", used)
                .put("refresh", given.refresh())
                .put("client", visitor.client())
                .put("login", visitor.login().email()));
        return given;
    }

    private String access(Visitor visitor) {
        String token = secret();
        issued.put(token, new Issued(visitor, System.nanoTime() + LIFE.toNanos()));
        return token;
    }

    private String secret() {
        byte[] bytes = new byte[24];
        random.nextBytes(bytes);
        return HexFormat.of().formatHex(bytes);
    }

    /** RFC 7636, section 4.2, method S256. */
    static String challenge(String verifier) {
        try {
            byte[] hash = MessageDigest.getInstance("SHA-256").digest(verifier.getBytes(StandardCharsets.US_ASCII));
            return Base64.getUrlEncoder().withoutPadding().encodeToString(hash);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Whom a bearer token stands for, while it lasts. */
    Optional<Visitor> visitor(String authorization) {
        if (!authorization.startsWith("Bearer ")) {
            return Optional.empty();
        }
        return Optional.ofNullable(issued.get(authorization.substring(7)))
                .filter(token -> token.untilNanos() - System.nanoTime() > 0)
                .map(Issued::visitor);
    }

    void expireAll() {
        issued.clear();
    }

    /** Ends every sign-in of a person. */
    synchronized void forgetLogins() {
        refresh.clear();
        codes.clear();
        issued.values().removeIf(one -> !one.visitor().login().email().isEmpty());
        log.clear();
    }

    @Override
    public void close() {
        log.close();
    }
}

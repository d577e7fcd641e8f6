package remitto.standins.purser;

import java.security.SecureRandom;
import java.time.Duration;
import java.util.Base64;
import java.util.HexFormat;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/** Access tokens by OAuth 2.0 client credentials (RFC 6749, section 4.4). Monotonic time, lost at a restart. */
final class Tokens {
    static final Duration LIFE = Duration.ofMinutes(15);

    private record Issued(String client, long untilNanos) {}

    private final Map<String, String> secrets;
    private final Map<String, Issued> issued = new ConcurrentHashMap<>();
    private final SecureRandom random = new SecureRandom();

    Tokens(Map<String, String> secrets) {
        this.secrets = Map.copyOf(secrets);
    }

    /** The client an HTTP Basic header stands for, if its secret is right. */
    Optional<String> client(String authorization) {
        if (!authorization.startsWith("Basic ")) {
            return Optional.empty();
        }
        try {
            String pair = new String(Base64.getDecoder().decode(authorization.substring(6)));
            int colon = pair.indexOf(':');
            String id = pair.substring(0, colon);
            return pair.substring(colon + 1).equals(secrets.get(id)) ? Optional.of(id) : Optional.empty();
        } catch (IllegalArgumentException | IndexOutOfBoundsException e) {
            return Optional.empty();
        }
    }

    String issue(String client) {
        byte[] bytes = new byte[24];
        random.nextBytes(bytes);
        String token = HexFormat.of().formatHex(bytes);
        issued.put(token, new Issued(client, System.nanoTime() + LIFE.toNanos()));
        return token;
    }

    /** The client a bearer token stands for, while it lasts. */
    Optional<String> bearer(String authorization) {
        if (!authorization.startsWith("Bearer ")) {
            return Optional.empty();
        }
        return Optional.ofNullable(issued.get(authorization.substring(7)))
                .filter(token -> token.untilNanos() - System.nanoTime() > 0)
                .map(Issued::client);
    }

    void expireAll() {
        issued.clear();
    }
}

package remitto.server.access;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.session.Session;
import org.springframework.stereotype.Component;
import remitto.server.platform.Problem;

/** Sessions of users: listed, and ended. The id of a session opens it, so it is never told; a hash of it stands for it. */
@Component
class SignedInSessions {
    static final String SINCE = "remitto.since";
    static final String ADDRESS = "remitto.address";
    static final String BROWSER = "remitto.browser";
    static final String PURPOSE = "remitto.purpose";
    static final String PURPOSE_UNTIL = "remitto.purpose-until";

    private final FindByIndexNameSessionRepository<? extends Session> sessions;
    private final SessionLimits limits;
    private final Clock clock;

    SignedInSessions(FindByIndexNameSessionRepository<? extends Session> sessions, SessionLimits limits, Clock clock) {
        this.sessions = sessions;
        this.limits = limits;
        this.clock = clock;
    }

    /**
     * A session of a user.
     *
     * @param handle stands for the session where it is to be ended
     * @param endsAt when it ends whatever is done in it
     */
    record SignedInSession(
            String handle,
            Instant since,
            Instant endsAt,
            Instant lastUsed,
            String address,
            String browser,
            boolean mine) {}

    List<SignedInSession> of(long userId, Optional<String> current) {
        return bySessionId(userId).entrySet().stream()
                .map(one -> view(one.getKey(), one.getValue(), current))
                .filter(one -> one.endsAt().isAfter(clock.instant()))
                .sorted(Comparator.comparing(SignedInSession::lastUsed).reversed())
                .toList();
    }

    private SignedInSession view(String id, Session session, Optional<String> current) {
        Instant since = Instant.ofEpochMilli(Optional.ofNullable(session.<Long>getAttribute(SINCE))
                .orElse(session.getCreationTime().toEpochMilli()));
        return new SignedInSession(
                handle(id),
                since,
                since.plus(limits.longest()),
                session.getLastAccessedTime(),
                session.getAttributeOrDefault(ADDRESS, ""),
                session.getAttributeOrDefault(BROWSER, ""),
                current.filter(id::equals).isPresent());
    }

    void end(long userId, String handle) {
        String id = bySessionId(userId).keySet().stream()
                .filter(one -> handle(one).equals(handle))
                .findFirst()
                .orElseThrow(() -> Problem.notFound("session of this user with this handle"));
        sessions.deleteById(id);
    }

    /** @param except the session that stays */
    int endAll(long userId, Optional<String> except) {
        List<String> ended = bySessionId(userId).keySet().stream()
                .filter(id -> except.filter(id::equals).isEmpty())
                .toList();
        ended.forEach(sessions::deleteById);
        return ended.size();
    }

    private Map<String, ? extends Session> bySessionId(long userId) {
        return sessions.findByPrincipalName(Long.toString(userId));
    }

    private static String handle(String id) {
        try {
            byte[] hash = MessageDigest.getInstance("SHA-256").digest(id.getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(hash, 0, 8);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("SHA-256 is part of every Java runtime", e);
        }
    }

    /** How long a session may last. */
    Duration longest() {
        return limits.longest();
    }
}

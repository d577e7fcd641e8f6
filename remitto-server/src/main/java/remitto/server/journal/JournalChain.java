package remitto.server.journal;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;

/**
 * A hash over every entry and the hash before it (SHA-256, FIPS 180-4), so that no entry can be changed, left out or put in between
 * without every later hash being another. The words of an entry match by a salted digest only, and can be taken away.
 */
final class JournalChain {
    /** What the first entry is chained to. */
    static final byte[] START = new byte[32];

    private JournalChain() {}

    /**
     * What is chained of an entry.
     *
     * @param words digest of its words
     */
    record Link(
            long id,
            Instant at,
            String actor,
            Optional<Long> actorId,
            String action,
            String subjectKind,
            long subjectId,
            byte[] words) {}

    /** The hash of an entry that is sealed as the {@code number}th. */
    static byte[] next(byte[] before, long number, Link link) {
        MessageDigest digest = sha256();
        digest.update(before);
        digest.update(ByteBuffer.allocate(Long.BYTES).putLong(number).array());
        for (String part : List.of(
                Long.toString(link.id()),
                link.at().truncatedTo(ChronoUnit.MICROS).toString(),
                link.actor(),
                link.actorId().map(String::valueOf).orElse(""),
                link.action(),
                link.subjectKind(),
                Long.toString(link.subjectId()))) {
            add(digest, part.getBytes(StandardCharsets.UTF_8));
        }
        add(digest, link.words());
        return digest.digest();
    }

    /** Each part with its length in front, so that none can take letters from the next. */
    private static void add(MessageDigest digest, byte[] part) {
        digest.update(ByteBuffer.allocate(Integer.BYTES).putInt(part.length).array());
        digest.update(part);
    }

    /** The digest of an entry's words. */
    static byte[] words(byte[] salt, String subject, String detail) {
        MessageDigest digest = sha256();
        digest.update(salt);
        int length = subject.getBytes(StandardCharsets.UTF_8).length;
        digest.update((length + ":" + subject + detail).getBytes(StandardCharsets.UTF_8));
        return digest.digest();
    }

    private static MessageDigest sha256() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("SHA-256 is part of every Java runtime", e);
        }
    }
}

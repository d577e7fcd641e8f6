package remitto.server.journal;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import remitto.server.journal.JournalChain.Link;

/** The chain's hash, against one that is put together here byte by byte as the documentation says. */
class JournalChainTest {
    private static final Instant AT = Instant.parse("2026-11-24T09:00:00.123456789Z");
    private static final Link LINK =
            new Link(12, AT, "Edda", Optional.of(3L), "saved a draft", "route", 4, new byte[] {1, 2});

    private static byte[] next(Link link) {
        return JournalChain.next(JournalChain.START, 1, link);
    }

    @Test
    void eachPartStandsBehindItsLength() throws Exception {
        MessageDigest digest = MessageDigest.getInstance("SHA-256");
        digest.update(new byte[32]);
        digest.update(HexFormat.of().parseHex("0000000000000001"));
        for (String part : List.of("12", "2026-11-24T09:00:00.123456Z", "Edda", "3", "saved a draft", "route", "4")) {
            byte[] bytes = part.getBytes(StandardCharsets.UTF_8);
            digest.update(new byte[] {0, 0, 0, (byte) bytes.length});
            digest.update(bytes);
        }
        digest.update(new byte[] {0, 0, 0, 2, 1, 2});
        assertThat(next(LINK)).isEqualTo(digest.digest());
    }

    @Test
    void whateverIsAnotherMakesAnotherHash() {
        byte[] words = LINK.words();
        assertThat(List.of(
                        new Link(13, AT, "Edda", Optional.of(3L), "saved a draft", "route", 4, words),
                        new Link(12, AT.plusSeconds(1), "Edda", Optional.of(3L), "saved a draft", "route", 4, words),
                        new Link(12, AT, "Oskar", Optional.of(3L), "saved a draft", "route", 4, words),
                        new Link(12, AT, "Edda", Optional.empty(), "saved a draft", "route", 4, words),
                        new Link(12, AT, "Edda", Optional.of(3L), "sent", "route", 4, words),
                        new Link(12, AT, "Edda", Optional.of(3L), "saved a draft", "routes", 4, words),
                        new Link(12, AT, "Edda", Optional.of(3L), "saved a draft", "route", 5, words),
                        new Link(12, AT, "Edda", Optional.of(3L), "saved a draft", "route", 4, new byte[] {1, 3}),
                        // Letters that move from one part to the next.
                        new Link(12, AT, "Eddas", Optional.of(3L), "aved a draft", "route", 4, words)))
                .allSatisfy(link -> assertThat(next(link)).isNotEqualTo(next(LINK)));
        assertThat(JournalChain.next(JournalChain.START, 2, LINK)).isNotEqualTo(next(LINK));
        assertThat(JournalChain.next(next(LINK), 1, LINK)).isNotEqualTo(next(LINK));
    }

    @Test
    void wordsAreToldApartWhereTheyMeet() {
        byte[] salt = {9};
        assertThat(JournalChain.words(salt, "ab", "c")).isNotEqualTo(JournalChain.words(salt, "a", "bc"));
        assertThat(JournalChain.words(salt, "a", "b")).isNotEqualTo(JournalChain.words(new byte[] {8}, "a", "b"));
    }
}

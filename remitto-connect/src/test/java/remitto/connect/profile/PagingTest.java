package remitto.connect.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.RateLimit;
import remitto.connect.profile.ToolServer.Asked;
import remitto.connect.profile.ToolServer.Told;
import remitto.connect.signin.Login;
import remitto.core.delivery.Backoff;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;

/** Lists are read to their end, whichever way a tool turns its pages. */
class PagingTest {
    private static final ObjectDescription USER = ObjectDescription.of(
            "user",
            "User",
            true,
            List.of(new Field(
                    "ref", "Ref", FieldKind.TEXT, false, true, false, true, false, OptionalInt.empty(), List.of())));

    private final ToolServer tool = new ToolServer();

    @AfterEach
    void stop() {
        tool.close();
    }

    private ProfileDestination paged(String path, String paging) {
        String profile = ProfileReader.resource("gangway-support.yaml")
                .replaceAll("path: /g/\\{object}/all\\S*", "path: " + path.replace("$", "\\$"))
                .replaceAll("  paging: .*\n", "")
                .replaceFirst("  next: /after\n", "")
                .replaceFirst(
                        "(?m)^list:\n", java.util.regex.Matcher.quoteReplacement("list:\n  paging: " + paging + "\n"));
        return new ProfileDestination(
                new ProfileReader().read(profile),
                Login.with(Map.of("base_address", tool.address(), "pass", "p")),
                TestTools.with(Clock.systemUTC()),
                RateLimit.NONE,
                new Backoff(Duration.ofMillis(1), Duration.ofMillis(2), 2));
    }

    private static List<String> ids(ProfileDestination destination) {
        List<String> ids = new ArrayList<>();
        Optional<String> cursor = Optional.empty();
        do {
            var page = destination.list(USER, Optional.empty(), cursor);
            page.records().forEach(one -> ids.add(one.id()));
            cursor = page.next();
        } while (cursor.isPresent());
        return ids;
    }

    private static String hits(int from, int to) {
        return IntStream.range(from, Math.max(from, to))
                .mapToObj(no -> "{\"no\":\"" + no + "\",\"slots\":{}}")
                .collect(Collectors.joining(",", "\"hits\":[", "]"));
    }

    private static int query(Asked asked, String name) {
        String text = asked.target().replaceAll(".*[?&]" + name + "=(\\d+).*", "$1");
        return Integer.parseInt(text);
    }

    private static List<String> upTo(int count) {
        return IntStream.range(0, count).mapToObj(Integer::toString).toList();
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 3, 4, 7})
    void byOffset(int count) {
        tool.on("/all", asked -> {
            int from = query(asked, "offset");
            return Told.json("{" + hits(from, Math.min(count, from + query(asked, "limit"))) + "}");
        });
        assertThat(ids(paged("\"/all?offset={cursor}&limit={size}\"", "{kind: offset, size: 2}")))
                .isEqualTo(upTo(count));
    }

    @Test
    void byOffsetWithATotalAsksNoMoreThanItMust() {
        tool.on("/all", asked -> {
            int from = query(asked, "offset");
            return Told.json("{\"total\":4," + hits(from, Math.min(4, from + 2)) + "}");
        });
        assertThat(ids(paged("\"/all?offset={cursor}\"", "{kind: offset, size: 2, total: /total}")))
                .isEqualTo(upTo(4));
        assertThat(tool.asked()).hasSize(2);
    }

    /** A tool that gives fewer records a page than it was asked for, but tells how many there are. */
    @Test
    void aShortPageDoesNotEndAListWhoseTotalIsTold() {
        tool.on("/all", asked -> {
            int from = query(asked, "offset");
            return Told.json("{\"total\":5," + hits(from, Math.min(5, from + 2)) + "}");
        });
        assertThat(ids(paged("\"/all?offset={cursor}\"", "{kind: offset, size: 100, total: /total}")))
                .isEqualTo(upTo(5));
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 3, 4, 6})
    void byPage(int count) {
        tool.on("/all", asked -> {
            int from = query(asked, "page") * 3;
            return Told.json("{" + hits(from, Math.min(count, from + 3)) + "}");
        });
        assertThat(ids(paged("\"/all?page={cursor}\"", "{kind: page, first: 0, size: 3}")))
                .isEqualTo(upTo(count));
    }

    @Test
    void byLinkHeader() {
        tool.on("/all", asked -> {
            int from = asked.target().contains("from=") ? query(asked, "from") : 0;
            String link = from < 4
                    ? "<" + tool.address() + "/all?from=0>; rel=\"first\", </all?from=" + (from + 2)
                            + "&sort=a,b>; title=\"a, b\"; rel=\"last next\""
                    : "</all?from=0>; rel=first";
            return new Told(200, Map.of("Link", link), "{" + hits(from, from + 2) + "}");
        });
        assertThat(ids(paged("/all", "{kind: link}"))).isEqualTo(upTo(6));
        assertThat(tool.asked())
                .extracting(asked -> asked.header("Gangway-Pass"))
                .containsOnly("p");
    }

    @Test
    void aNextPageElsewhereGetsNoSignIn() {
        tool.on(
                "/all",
                asked -> new Told(200, Map.of("Link", "<http://127.0.0.1:1/all>; rel=next"), "{" + hits(0, 2) + "}"));
        assertThatThrownBy(() -> ids(paged("/all", "{kind: link}")))
                .isInstanceOf(DestinationProblem.class)
                .hasMessageContaining("another place");
    }

    @Test
    void aListThatIsAskedForByABody() {
        tool.on("/all", asked -> {
            boolean first = asked.body().equals("{\"from\":\"0\",\"most\":2,\"after\":\"1970-01-01T00:00:00Z\"}");
            return Told.json("{" + (first ? hits(0, 2) : hits(2, 3)) + "}");
        });
        assertThat(ids(paged(
                        "/all",
                        "{kind: offset, size: 2}\n  body: {from: \"{cursor}\", most: \"{size}\", after: \"{since}\"}")))
                .isEqualTo(upTo(3));
    }

    @Test
    void byCursor() {
        tool.on(
                "/all",
                asked -> asked.target().endsWith("after=")
                        ? Told.json("{\"meta\":{\"next\":\"b\"}," + hits(0, 2) + "}")
                        : Told.json("{" + hits(2, 3) + "}"));
        assertThat(ids(paged("\"/all?after={cursor}\"", "{kind: cursor, next: /meta/next}")))
                .isEqualTo(upTo(3));
    }
}

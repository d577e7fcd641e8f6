package remitto.server.receiver;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.Socket;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestReceiver;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** Callers who take their time, receivers with much to lay out, and a database that does not answer stop nobody else. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ManyCallsTest {
    private TestServer server;
    private TestUser editor;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private TestReceiver receiver(String table) {
        return new TestReceiver(server, editor, table, TestReceiver.definition(TestReceiver.OPEN, "", "no INTEGER"));
    }

    /** A call whose body never comes to its end. */
    private Socket slow(TestReceiver receiver) throws IOException {
        Socket socket = new Socket(receiver.url().getHost(), receiver.url().getPort());
        socket.getOutputStream()
                .write(("POST " + receiver.url().getPath() + " HTTP/1.1\r\nHost: remitto.example\r\n"
                                + "Content-Type: application/json\r\nContent-Length: 100\r\n\r\n{\"no\":")
                        .getBytes(StandardCharsets.US_ASCII));
        socket.getOutputStream().flush();
        return socket;
    }

    /** Slow calls of one, until a call of another is not taken. */
    private HttpResponse<String> untilRefused(TestReceiver slow, TestReceiver other, List<Socket> sockets)
            throws IOException {
        HttpResponse<String> answer = other.call("{\"no\":1}");
        while (answer.statusCode() == 200 && sockets.size() <= 2 * CallRoom.AT_ONCE) {
            sockets.add(slow(slow));
            answer = other.call("{\"no\":1}");
        }
        return answer;
    }

    private static void close(List<Socket> sockets) throws IOException {
        for (Socket socket : sockets) {
            socket.close();
        }
    }

    @Test
    void slowCallersKeepNeitherAnotherReceiverNorAPageWaiting() throws IOException {
        TestReceiver slow = receiver("slow");
        TestReceiver other = receiver("other");
        TestReceiver third = receiver("third");
        CallRoom room = server.bean(CallRoom.class);
        List<Socket> sockets = new ArrayList<>();
        try {
            HttpResponse<String> full = untilRefused(slow, slow, sockets);
            assertThat(full.statusCode()).isEqualTo(503);
            assertThat(full.body()).contains("Too many calls at once. Send the call again in a moment.");
            assertThat(full.headers().firstValue("Retry-After")).contains("1");
            assertThat(other.call("{\"no\":2}").statusCode()).isEqualTo(200);
            assertThat(untilRefused(third, other, sockets).statusCode()).isEqualTo(503);
            editor.get("/api/session").ok();
            assertThat(other.view().get("name").asString()).isEqualTo("other");
        } finally {
            close(sockets);
        }
        Awaited.until("room again", () -> slow.call("{\"no\":4}").statusCode() == 200);
        Awaited.until("room for all", () -> {
            for (int i = 0; i < CallRoom.AT_ONCE; i++) {
                if (!room.enter()) {
                    leave(room, i);
                    return false;
                }
            }
            leave(room, CallRoom.AT_ONCE);
            return true;
        });
        assertThat(slow.rows("no")).endsWith("4");
    }

    private static void leave(CallRoom room, int times) {
        for (int i = 0; i < times; i++) {
            room.leave();
        }
    }

    @Test
    void aReceiverWithManyCallsLeavesOthersTheirTurn() {
        List<TestReceiver> large = List.of(receiver("large_one"), receiver("large_two"));
        TestReceiver small = receiver("small_one");
        for (TestReceiver one : large) {
            server.cluster()
                    .run(
                            server.database(),
                            "insert into received_call (receiver_id, received_at, headers, body, verdict, problem)"
                                    + " select " + one.id() + ", now(), '{\"content-type\":\"application/json\"}',"
                                    + " convert_to('{\"no\":' || n || '}', 'UTF8'), 'WAITING', ''"
                                    + " from generate_series(1, 40000) n");
        }
        large.forEach(one -> server.bean(CallsDue.class).wake(one.id()));
        Awaited.until("the large ones to be begun", () -> large.stream().allMatch(one -> waiting(one) < 40_000));
        small.call("{\"no\":1}");
        assertThat(small.rows("no")).isEqualTo("1");
        assertThat(large).as("the others are not done").allMatch(one -> waiting(one) > 0);
        large.forEach(one -> assertThat(one.rows("1").split(", ")).hasSize(40_000));
    }

    private static long waiting(TestReceiver receiver) {
        return receiver.view().get("counts").get("waiting").asLong();
    }

    @Test
    void aCallIsToldToComeAgainWhereNobodyCanBeLookedUp() {
        TestReceiver lone = receiver("lone");
        assertThat(lone.call("{\"no\":1}").statusCode()).isEqualTo(200);
        server.cluster().run(server.database(), "alter table receiver rename to receiver_away");
        try {
            server.bean(KnownReceivers.class).forget();
            HttpResponse<String> answer = lone.call("{\"no\":2}");
            assertThat(answer.statusCode()).isEqualTo(503);
            assertThat(answer.body()).contains("Calls cannot be stored right now.");
            assertThat(answer.headers().firstValue("Retry-After")).contains("5");
        } finally {
            server.cluster().run(server.database(), "alter table receiver_away rename to receiver");
        }
        assertThat(lone.call("{\"no\":2}").statusCode()).isEqualTo(200);
        assertThat(lone.rows("no")).isEqualTo("1, 2");
    }

    @Test
    void keysOfSeveralColumnsThatAreTooLongTogetherAreHeld() {
        Map<String, Object> definition = TestReceiver.definition(TestReceiver.OPEN, "", "a TEXT", "b TEXT");
        definition.put(
                "several",
                Map.of(
                        "kind",
                        "latest-per-key",
                        "keys",
                        List.of("a", "b"),
                        "orderBy",
                        "",
                        "change",
                        "",
                        "removes",
                        List.of()));
        TestReceiver wide = new TestReceiver(server, editor, "wide", definition);
        // Letters of three bytes that are all different are the longest that an index is asked to hold.
        String letters = wide(300);
        wide.call("{\"a\":\"" + letters + "\",\"b\":\"" + wide(301) + "\"}");
        wide.call("{\"a\":\"" + letters + "\",\"b\":\"" + letters + "\"}");
        wide.settled();
        assertThat(wide.calls()).containsExactly("KEPT 1", "HELD 0 b: is too long for a key.");
        assertThat(wide.rows("length(a), length(b)")).isEqualTo("300 300");
    }

    private static String wide(int length) {
        StringBuilder letters = new StringBuilder();
        for (int i = 0; i < length; i++) {
            letters.appendCodePoint(0x4E00 + i * 37 % 20_000);
        }
        return letters.toString();
    }

    @Test
    void aSecretThatIsSentInAnotherHeaderIsNotShown() {
        TestReceiver shared = new TestReceiver(
                server,
                editor,
                "shared_elsewhere",
                TestReceiver.definition(Map.of("kind", "shared-secret", "header", "X-Key"), "", "no INTEGER"));
        shared.call("{\"no\":1}", "X-Key", shared.secret(), "X-Also", "Bearer " + shared.secret(), "X-Shop", "Vik");
        shared.call("{\"no\":2}", "X-Wrong", shared.secret());
        Awaited.until("both", () -> shared.calls().size() == 2);
        for (long call : shared.callIds()) {
            assertThat(editor.get("/api/receivers/" + shared.id() + "/calls/" + call)
                            .text())
                    .doesNotContain(shared.secret());
        }
        assertThat(editor.get("/api/receivers/" + shared.id() + "/calls/"
                                + shared.callIds().get(1))
                        .text())
                .contains("Vik", "x-also");
    }
}

package remitto.connect.outgoing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.net.URI;
import java.net.UnknownHostException;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Calls reach the address that was checked, once, and come back with what the tool said. */
class HttpCallsTest {
    private static final Duration LONGEST = Duration.ofSeconds(10);
    private static final int MOST = 1_000;

    private final Queue<String> asked = new ConcurrentLinkedQueue<>();
    private HttpServer server;
    private int port;

    @BeforeEach
    void start() throws IOException {
        server = HttpServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
        server.setExecutor(Executors.newCachedThreadPool());
        server.createContext("/", this::answer);
        server.start();
        port = server.getAddress().getPort();
    }

    @AfterEach
    void stop() {
        server.stop(0);
    }

    private void answer(HttpExchange exchange) throws IOException {
        asked.add(exchange.getRequestMethod() + " " + exchange.getRequestURI() + " of "
                + exchange.getRequestHeaders().getFirst("Host") + " cookie "
                + exchange.getRequestHeaders().getFirst("Cookie"));
        byte[] body = exchange.getRequestBody().readAllBytes();
        exchange.getResponseHeaders().add("Set-Cookie", "seen=1");
        exchange.getResponseHeaders().add("Location", "/elsewhere");
        exchange.sendResponseHeaders(exchange.getRequestURI().getPath().equals("/moved") ? 302 : 200, body.length + 1L);
        exchange.getResponseBody().write(body);
        exchange.getResponseBody().write('.');
        exchange.close();
    }

    private HttpRequest.Builder to(String host, String path) {
        return HttpRequest.newBuilder(URI.create("http://" + host + ":" + port + path));
    }

    private static InetAddress address(String literal) throws UnknownHostException {
        return InetAddress.getByName(literal);
    }

    private static AddressGuard here() {
        return new AddressGuard(List.of("127.0.0.1"));
    }

    @Test
    void aHostIsCalledAtTheAddressThatWasCheckedAndByItsName() throws Exception {
        AddressGuard guard =
                new AddressGuard(List.of("tool.example:" + port), host -> new InetAddress[] {address("127.0.0.1")});
        try (HttpCalls calls = new HttpCalls(guard)) {
            assertThat(calls.send(to("tool.example", "/a").build(), LONGEST, MOST)
                            .status())
                    .isEqualTo(200);
        }
        assertThat(asked).containsExactly("GET /a of tool.example:" + port + " cookie null");
    }

    /** The check sees an address of the internet; by the time the connection is made the same name means this machine. */
    @Test
    void aNameThatMeansAnotherAddressAMomentLaterIsNotCalled() throws Exception {
        AtomicInteger times = new AtomicInteger();
        AddressGuard guard = new AddressGuard(
                List.of(), host -> new InetAddress[] {address(times.getAndIncrement() == 0 ? "8.8.4.4" : "127.0.0.1")});
        HttpRequest request = to("rebound.example", "/a").build();
        guard.check(request.uri());
        try (HttpCalls calls = new HttpCalls(guard)) {
            assertThatThrownBy(() -> calls.send(request, LONGEST, MOST)).isInstanceOf(RefusedAddress.class);
        }
        assertThat(asked).isEmpty();
        assertThat(times).hasValueGreaterThan(1);
    }

    @Test
    void oneAddressOfSeveralThatMayNotBeCalledRefusesAll() {
        AddressGuard guard =
                new AddressGuard(List.of(), host -> new InetAddress[] {address("8.8.4.4"), address("10.1.2.3")});
        assertThatThrownBy(() -> guard.resolve("two.example", 443))
                .isInstanceOf(RefusedAddress.class)
                .hasMessageContaining("two.example");
    }

    @Test
    void nothingIsFollowedAndNothingKeptBetweenCalls() throws Exception {
        try (HttpCalls calls = new HttpCalls(here())) {
            HttpAnswer moved = calls.send(to("127.0.0.1", "/moved").build(), LONGEST, MOST);
            assertThat(moved.status()).isEqualTo(302);
            assertThat(moved.headers().get("location")).containsExactly("/elsewhere");
            calls.send(to("127.0.0.1", "/b").build(), LONGEST, MOST);
        }
        assertThat(asked)
                .containsExactly(
                        "GET /moved of 127.0.0.1:" + port + " cookie null",
                        "GET /b of 127.0.0.1:" + port + " cookie null");
    }

    @Test
    void aBodyComesBackToTheLetter() throws Exception {
        String body = "{\"name\": \"Ægir Øyvind\\\\ \\\"quoted\\\"\"}";
        HttpRequest request = to("127.0.0.1", "/c")
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(body))
                .build();
        try (HttpCalls calls = new HttpCalls(here())) {
            assertThat(new String(calls.send(request, LONGEST, MOST).body(), StandardCharsets.UTF_8))
                    .isEqualTo(body + ".");
        }
    }

    @Test
    void anAnswerOfMoreThanFitsIsBrokenOff() throws Exception {
        HttpRequest request = to("127.0.0.1", "/d")
                .POST(HttpRequest.BodyPublishers.ofString("x".repeat(MOST)))
                .build();
        try (HttpCalls calls = new HttpCalls(here())) {
            assertThatThrownBy(() -> calls.send(request, LONGEST, MOST))
                    .isInstanceOf(IOException.class)
                    .hasMessageContaining("larger than " + MOST);
            assertThat(calls.send(request, LONGEST, MOST + 1).body()).hasSize(MOST + 1);
        }
    }

    @Test
    void whereNobodyListensNothingWasSent() throws Exception {
        server.stop(0);
        try (HttpCalls calls = new HttpCalls(here())) {
            assertThatThrownBy(() -> calls.send(to("127.0.0.1", "/e").build(), LONGEST, MOST))
                    .isInstanceOf(HttpCalls.NoConnection.class);
        }
    }

    /** Somebody who takes connections and reads, and then does what a test says. */
    private static AutoCloseable listener(ServerSocket socket, AtomicInteger taken, boolean hangUp) {
        Thread thread = new Thread(() -> {
            try {
                while (true) {
                    Socket one = socket.accept();
                    one.getInputStream().read(new byte[500]);
                    taken.incrementAndGet();
                    if (hangUp) {
                        one.close();
                    }
                }
            } catch (IOException e) {
                // the test is over
            }
        });
        thread.start();
        return () -> {
            socket.close();
            thread.join();
        };
    }

    /** A call that may have been taken is never made again by itself. */
    @Test
    void aConnectionThatIsLostIsNotTriedAgain() throws Exception {
        AtomicInteger taken = new AtomicInteger();
        ServerSocket socket = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        try (AutoCloseable listening = listener(socket, taken, true);
                HttpCalls calls = new HttpCalls(here())) {
            assertThat(listening).isNotNull();
            for (String method : List.of("GET", "PUT", "POST")) {
                int before = taken.get();
                HttpRequest request = HttpRequest.newBuilder(
                                URI.create("http://127.0.0.1:" + socket.getLocalPort() + "/"))
                        .method(method, HttpRequest.BodyPublishers.ofString("once"))
                        .build();
                assertThatThrownBy(() -> calls.send(request, LONGEST, MOST))
                        .isInstanceOf(IOException.class)
                        .isNotInstanceOf(HttpCalls.NoConnection.class);
                assertThat(taken.get() - before).as(method).isEqualTo(1);
            }
        }
    }

    @Test
    void whoeverIsToldToStopWaitingStopsAtOnce() throws Exception {
        AtomicInteger taken = new AtomicInteger();
        ServerSocket socket = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        CountDownLatch ended = new CountDownLatch(1);
        AtomicReference<Throwable> told = new AtomicReference<>(new IllegalStateException("nothing yet"));
        try (AutoCloseable listening = listener(socket, taken, false);
                HttpCalls calls = new HttpCalls(here())) {
            assertThat(listening).isNotNull();
            Thread waiting = new Thread(() -> {
                try {
                    calls.send(
                            HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + socket.getLocalPort() + "/"))
                                    .build(),
                            Duration.ofMinutes(10),
                            MOST);
                } catch (IOException | InterruptedException e) {
                    told.set(e);
                }
                ended.countDown();
            });
            waiting.start();
            while (taken.get() == 0) {
                Thread.onSpinWait();
            }
            waiting.interrupt();
            ended.await();
        }
        assertThat(told.get()).isInstanceOf(InterruptedException.class);
    }

    @Test
    void aDatabaseIsLetInByTheAddressThatIsConnectedTo() throws Exception {
        GuardedSockets none = new GuardedSockets(new AddressGuard(List.of()).spelled());
        assertThatThrownBy(() -> none.createSocket("127.0.0.1", port)).isInstanceOf(RefusedAddress.class);
        GuardedSockets listed =
                new GuardedSockets(new AddressGuard(List.of("warehouse.example", "127.0.0.1:" + port)).spelled());
        try (Socket socket = listed.createSocket("127.0.0.1", port)) {
            assertThat(socket.isConnected()).isTrue();
        }
        try (Socket socket = listed.createSocket()) {
            assertThatThrownBy(() -> socket.connect(new InetSocketAddress("127.0.0.1", port + 1)))
                    .isInstanceOf(RefusedAddress.class);
        }
    }
}

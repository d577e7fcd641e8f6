package remitto.server.harness;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.support.GenericApplicationContext;
import remitto.server.RemittoServer;
import tools.jackson.databind.JsonNode;

/** The server on an empty database, beside a small warehouse of a made-up shop. Nothing leaves this machine. */
public final class TestServer implements AutoCloseable {
    public static final String PASSWORD = "quay-lantern-77-otter";
    private static final String CLOCK = "clock";
    private static final AtomicInteger NUMBER = new AtomicInteger();

    private final TestCluster cluster = TestCluster.given();
    private final TestClock clock = new TestClock();
    private final String name = ProcessHandle.current().pid() + "_" + NUMBER.incrementAndGet();
    private final Map<String, Object> properties;
    private ConfigurableApplicationContext context;
    private final TestWarehouse warehouse;
    private Optional<TestUser> admin = Optional.empty();

    private TestServer(Map<String, Object> properties) {
        cluster.role("remitto_people", "nosuperuser nocreatedb nocreaterole");
        cluster.copy(MigratedTemplate.of(cluster), database(), "remitto");
        warehouse = new TestWarehouse(cluster, "shop_test_" + name);
        this.properties = properties(properties);
        context = begin();
    }

    private ConfigurableApplicationContext begin() {
        return new SpringApplicationBuilder(RemittoServer.class)
                .main(RemittoServer.class)
                .initializers((GenericApplicationContext fresh) -> {
                    if (fresh.containsBeanDefinition(CLOCK)) {
                        fresh.removeBeanDefinition(CLOCK);
                    }
                    fresh.registerBean(CLOCK, Clock.class, () -> clock);
                })
                .run(properties.entrySet().stream()
                        .map(entry -> "--" + entry.getKey() + "=" + entry.getValue())
                        .toArray(String[]::new));
    }

    /** Stops the server and leaves everything else as it is. */
    public void rest() {
        context.close();
    }

    /** Starts it again, on what it left. */
    public void again() {
        admin = Optional.empty();
        context = begin();
    }

    public static TestServer start() {
        return new TestServer(Map.of());
    }

    /** @param properties on top of those that every test has */
    public static TestServer start(Map<String, Object> properties) {
        return new TestServer(properties);
    }

    private Map<String, Object> properties(Map<String, Object> more) {
        try {
            Path folder = Files.createTempDirectory("remitto-test");
            Map<String, Object> all = new HashMap<>();
            all.put("server.port", 0);
            all.put("spring.datasource.url", cluster.url(database()));
            all.put("spring.datasource.username", "remitto");
            all.put("spring.datasource.password", cluster.password());
            all.put("remitto.people-reader.password", cluster.password());
            all.put("remitto.secret-key-file", folder.resolve("secret.key"));
            all.put("remitto.outgoing-allowed", "127.0.0.1,localhost");
            all.put("remitto.stand-ins", true);
            all.put("remitto.outbox", folder.resolve("outbox"));
            all.put("remitto.inbox", folder.resolve("inbox"));
            all.put("remitto.uploads", folder.resolve("uploads"));
            // Hashing a password as it is hashed for users takes longer than most of a test.
            all.put("remitto.password-memory-kb", 64);
            all.put("remitto.administrator.email", "admin@quay.example");
            all.put("remitto.administrator.password", PASSWORD);
            all.putAll(more);
            return all;
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    /** The name of the server's own database. */
    public String database() {
        return "remitto_srv_test_" + name;
    }

    public TestCluster cluster() {
        return cluster;
    }

    public TestWarehouse warehouse() {
        return warehouse;
    }

    public TestClock clock() {
        return clock;
    }

    public <T> T bean(Class<T> type) {
        return context.getBean(type);
    }

    public URI address() {
        return URI.create("http://127.0.0.1:" + context.getEnvironment().getProperty("local.server.port"));
    }

    /** Somebody who is not signed in. */
    public TestUser stranger() {
        return new TestUser(address());
    }

    /** What somebody without cookies is answered who sends a header of their own. */
    public HttpResponse<String> withHeader(String path, String name, String value) {
        try {
            return HttpClient.newHttpClient()
                    .send(
                            HttpRequest.newBuilder(address().resolve(path))
                                    .header(name, value)
                                    .build(),
                            HttpResponse.BodyHandlers.ofString());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted", e);
        }
    }

    /** A program that shows a token with every call. */
    public TestProgram program(String token) {
        return new TestProgram(address(), token);
    }

    /** The administrator, in one session for as long as that lasts. */
    public TestUser admin() {
        if (admin.filter(one -> one.get("/api/session").ok().get("signedIn").asBoolean())
                .isEmpty()) {
            admin = Optional.of(signedIn("admin@quay.example"));
        }
        return admin.get();
    }

    /** A user of a role, made on first use, signed in again. */
    public TestUser user(String role) {
        return user(role, role.toLowerCase(Locale.ROOT));
    }

    /** @param name of the user, who has the address of that name */
    public TestUser user(String role, String name) {
        String email = email(name);
        TestUser.Answer made = admin().post(
                        "/api/users",
                        Map.of("email", email, "name", name + " tester", "role", role, "password", PASSWORD));
        if (made.status() != 200 && made.status() != 409) {
            throw new AssertionError(made.text());
        }
        return signedIn(email);
    }

    private static String email(String name) {
        return name.replace(' ', '.') + "@quay.example";
    }

    public TestUser signedIn(String email) {
        TestUser user = new TestUser(address());
        user.signIn(email, PASSWORD).ok();
        return user;
    }

    /** The id of a user's account. */
    public long idOf(String name) {
        for (JsonNode one : admin().get("/api/users").ok()) {
            if (one.get("email").asString().equals(email(name))) {
                return one.get("id").asLong();
            }
        }
        throw new AssertionError("no user " + name);
    }

    /** What the journal says of an action, the newest first. */
    public List<JsonNode> journal(String action) {
        return admin().get("/api/journal")
                .ok()
                .get("entries")
                .valueStream()
                .filter(entry -> entry.get("action").asString().equals(action))
                .toList();
    }

    @Override
    public void close() {
        context.close();
        cluster.drop(database());
        warehouse.close();
    }
}

package remitto.server.observability;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** Metrics say what is so, in the form that monitors read, and nothing about anybody. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class MetricsTest {
    private TestServer server;
    private TestUser viewer;
    private TestRoute shop;

    @BeforeAll
    void start() {
        server = TestServer.start();
        TestUser editor = server.user("EDITOR");
        viewer = server.user("VIEWER");
        shop = new TestRoute(server, editor);
        long route = shop.add(editor, "Watched \"route\"", TestRoute.spec(Optional.of(BigDecimal.TEN)));
        shop.run(route);
        shop.prepare(route);
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private ExpositionText text() {
        TestUser.Answer answer = viewer.get("/api/metrics");
        assertThat(answer.status()).isEqualTo(200);
        assertThat(answer.raw().headers().firstValue("Content-Type"))
                .hasValue("text/plain;version=0.0.4;charset=utf-8");
        return ExpositionText.read(answer.text());
    }

    @Test
    void whatTheWorkCameToStandsInThem() {
        ExpositionText text = text();
        assertThat(text.value("remitto_runs", Map.of("state", "SENT"))).hasValue(2);
        double acknowledged = text.values("remitto_lines_acknowledged").stream()
                .mapToDouble(value -> value)
                .sum();
        assertThat(text.value("remitto_lines_prepared", Map.of("verdict", "added")))
                .as("all that were added were acknowledged")
                .hasValue(acknowledged);
        assertThat(acknowledged).isPositive();
        assertThat(text.values("remitto_usage_month"))
                .allSatisfy(value -> assertThat(value).isLessThanOrEqualTo(acknowledged));
        assertThat(text.values("remitto_destination_circuit_open")).containsOnly(0.0);
        assertThat(text.value("remitto_route_last_sent_seconds", Map.of("route", "Watched \"route\"")))
                .as("a quote within a label")
                .isPresent();
        assertThat(text.value("hikaricp_connections_max", Map.of("pool", "web")))
                .hasValue(12);
        assertThat(text.values("http_server_requests_seconds")).isNotEmpty();
        assertThat(text.values("jvm_memory_used_bytes")).isNotEmpty();
    }

    @Test
    void signInsAreCountedByTheirResult() {
        double failed = text().value("remitto_sign_ins_total", Map.of("result", "failure"))
                .orElse(0);
        server.stranger().signIn("nobody@quay.example", "wrong-lantern-77");
        assertThat(text().value("remitto_sign_ins_total", Map.of("result", "failure")))
                .hasValue(failed + 1);
        assertThat(text().value("remitto_sign_ins_total", Map.of("result", "success"))
                        .orElse(0))
                .isPositive();
    }

    /** Each is described, each question is one that the database answers, and no value of a person stands in any. */
    @Test
    void everyMetricIsDescribedAndNoneIsAboutAnybody() {
        String text = viewer.get("/api/metrics").text();
        Measurements measurements = server.bean(Measurements.class);
        for (Measurements.Metric metric : Measurements.ALL) {
            measurements.now(metric);
            if (!measurements.now(metric).isEmpty()) {
                assertThat(text).contains("# HELP " + metric.name().replace('.', '_') + " " + metric.words());
            }
        }
        List<String> mails = List.of(server.warehouse()
                .text("select string_agg(email, ' ') from shop.customers where id <= 30")
                .split(" "));
        assertThat(mails).hasSize(30).noneMatch(text::contains);
    }

    /** What the documentation promises and the dashboard asks for is there. */
    @ParameterizedTest
    @ValueSource(strings = {"dashboard.json", "operations.md"})
    void everyNameThatIsWrittenDownIsThatOfAMetric(String file) throws IOException {
        Set<String> known = Measurements.ALL.stream()
                .map(metric -> metric.name().replace('.', '_'))
                .collect(Collectors.toCollection(TreeSet::new));
        known.add("remitto_sign_ins_total");
        Matcher written = Pattern.compile("\\bremitto_[a-z_]*[a-z]\\b(?=[{`)\\[])")
                .matcher(Files.readString(Path.of("..", "docs", file)));
        Set<String> names = new TreeSet<>();
        while (written.find()) {
            names.add(written.group());
        }
        assertThat(names).hasSizeGreaterThan(8).isSubsetOf(known);
    }

    @Test
    void nobodyReadsThemWhoIsNotSignedIn() {
        assertThat(server.stranger().get("/api/metrics").status()).isEqualTo(401);
    }

    @Test
    void healthIsToldToEverybodyAndNothingBesideIt() {
        TestUser nobody = server.stranger();
        assertThat(nobody.get("/health/liveness").json().get("status").asString())
                .isEqualTo("UP");
        assertThat(nobody.get("/health/readiness").text()).isEqualTo("{\"status\":\"UP\"}");
        for (String path : List.of("/env", "/beans", "/metrics", "/heapdump", "/loggers")) {
            assertThat(nobody.get(path).status()).as(path).isEqualTo(404);
        }
    }

    /** A database that takes nothing makes a server that lives and is not ready. */
    @Test
    void aReadOnlyDatabaseIsNotReady() {
        String database = server.database();
        server.cluster().run("postgres", "alter database " + database + " set default_transaction_read_only = on");
        try {
            drop(database);
            assertThat(server.stranger().get("/health/readiness").status()).isEqualTo(503);
            assertThat(server.stranger().get("/health/liveness").status()).isEqualTo(200);
        } finally {
            server.cluster().run("postgres", "alter database " + database + " reset default_transaction_read_only");
            drop(database);
        }
        // Connections that were ended are found out one by one, in each pool.
        Awaitility.await().untilAsserted(() -> {
            assertThat(server.stranger().get("/health/readiness").status()).isEqualTo(200);
            assertThat(viewer.get("/api/metrics").status()).isEqualTo(200);
        });
    }

    /** Connections that are there keep the setting they began with. */
    private void drop(String database) {
        server.cluster()
                .run(
                        "postgres",
                        "select pg_terminate_backend(pid) from pg_stat_activity where datname = '" + database + "'");
    }

    @Test
    void aRequestKeepsTheIdThatAProxyGaveIt() throws Exception {
        assertThat(viewer.get("/api/session").raw().headers().firstValue("X-Request-Id"))
                .hasValueSatisfying(id -> assertThat(id).hasSize(36));
        assertThat(server.withHeader("/api/session", "X-Request-Id", "quay-7.of_proxy")
                        .headers()
                        .firstValue("X-Request-Id"))
                .hasValue("quay-7.of_proxy");
        assertThat(server.withHeader("/api/session", "X-Request-Id", "no id {}")
                        .headers()
                        .firstValue("X-Request-Id"))
                .hasValueSatisfying(id -> assertThat(id).hasSize(36));
    }
}

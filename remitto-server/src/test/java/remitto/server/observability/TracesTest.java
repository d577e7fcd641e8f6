package remitto.server.observability;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import io.opentelemetry.proto.collector.trace.v1.ExportTraceServiceRequest;
import io.opentelemetry.proto.common.v1.KeyValue;
import io.opentelemetry.proto.trace.v1.Span;
import io.opentelemetry.proto.trace.v1.Status;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Spans as a collector gets them, read by the messages that the OpenTelemetry project generates from its protocol (opentelemetry-proto). */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class TracesTest {
    private final List<Span> spans = new CopyOnWriteArrayList<>();
    private HttpServer collector;
    private TestServer server;
    private TestUser editor;

    @BeforeAll
    void start() throws IOException {
        collector = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        collector.createContext("/v1/traces", exchange -> {
            boolean packed = "gzip".equals(exchange.getRequestHeaders().getFirst("Content-Encoding"));
            ExportTraceServiceRequest told = ExportTraceServiceRequest.parseFrom(
                    packed ? new GZIPInputStream(exchange.getRequestBody()) : exchange.getRequestBody());
            told.getResourceSpansList().forEach(resource -> resource.getScopeSpansList()
                    .forEach(scope -> spans.addAll(scope.getSpansList())));
            exchange.sendResponseHeaders(200, 0);
            exchange.close();
        });
        collector.start();
        server = TestServer.start(Map.of(
                "remitto.traces.url",
                "http://127.0.0.1:" + collector.getAddress().getPort() + "/v1/traces"));
        editor = server.user("EDITOR");
    }

    @AfterAll
    void stop() {
        server.close();
        collector.stop(0);
    }

    private Stream<Span> named(String name) {
        return spans.stream().filter(span -> span.getName().equals(name));
    }

    private Span told(String name) {
        return Awaited.value("a span " + name, () -> named(name).findFirst(), Optional::isPresent)
                .orElseThrow();
    }

    private static String attribute(Span span, String key) {
        return span.getAttributesList().stream()
                .filter(one -> one.getKey().equals(key))
                .map(KeyValue::getValue)
                .map(value -> value.hasIntValue() ? Long.toString(value.getIntValue()) : value.getStringValue())
                .findFirst()
                .orElse("");
    }

    @Test
    void aRequestGoesOnInTheTraceOfItsCallerAndIsCalledByItsPattern() throws Exception {
        server.withHeader("/api/session", "traceparent", "00-0af7651916cd43dd8448eb211c80319c-b7ad6b7169203331-01");

        // The example of W3C Trace Context, section 3.2.3.
        Span span = Awaited.value(
                        "a span of the trace that the caller began",
                        () -> named("GET /api/session")
                                .filter(one -> HexFormat.of()
                                        .formatHex(one.getTraceId().toByteArray())
                                        .equals("0af7651916cd43dd8448eb211c80319c"))
                                .findFirst(),
                        Optional::isPresent)
                .orElseThrow();

        assertThat(HexFormat.of().formatHex(span.getParentSpanId().toByteArray()))
                .isEqualTo("b7ad6b7169203331");
        assertThat(attribute(span, "http.route")).isEqualTo("/api/session");
        server.stranger().get("/api/routes/4711");
        assertThat(attribute(told("GET /api/**"), "http.response.status_code"))
                .as("refused before anybody knew what it is about")
                .isEqualTo("401");
        editor.get("/api/routes/4711");
        assertThat(attribute(told("GET /api/routes/{id}"), "http.response.status_code"))
                .isEqualTo("404");
        assertThat(spans.toString()).doesNotContain("4711");
    }

    @Test
    void theWorkOnARunIsAPartOfWhatAskedForIt() {
        TestRoute route = new TestRoute(server, editor);
        long id = route.add(editor, "Traced", TestRoute.spec(Optional.empty()));
        JsonNode run = route.run(id);
        assertThat(run.get("state").asString()).isEqualTo("SENT");

        Span prepared = told("prepare run");
        Span asked = told("POST /api/routes/{id}/runs");
        Span sent = told("send run");

        assertThat(prepared.getTraceId()).isEqualTo(asked.getTraceId());
        assertThat(prepared.getParentSpanId()).isEqualTo(asked.getSpanId());
        assertThat(attribute(prepared, "remitto.run")).isEqualTo(run.get("id").asString());
        assertThat(attribute(sent, "remitto.route")).isEqualTo(Long.toString(id));
        assertThat(sent.getStatus().getCode()).isEqualTo(Status.StatusCode.STATUS_CODE_UNSET);
        assertThat(spans.toString()).as("no value of anybody").doesNotContain("@mail.example", "Stavern");
    }
}

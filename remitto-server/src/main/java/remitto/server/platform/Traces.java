package remitto.server.platform;

import io.opentelemetry.api.OpenTelemetry;
import io.opentelemetry.api.common.AttributeKey;
import io.opentelemetry.api.common.Attributes;
import io.opentelemetry.api.trace.Span;
import io.opentelemetry.api.trace.SpanKind;
import io.opentelemetry.api.trace.StatusCode;
import io.opentelemetry.api.trace.Tracer;
import io.opentelemetry.api.trace.propagation.W3CTraceContextPropagator;
import io.opentelemetry.context.Context;
import io.opentelemetry.context.propagation.ContextPropagators;
import io.opentelemetry.context.propagation.TextMapGetter;
import io.opentelemetry.exporter.otlp.http.trace.OtlpHttpSpanExporter;
import io.opentelemetry.sdk.OpenTelemetrySdk;
import io.opentelemetry.sdk.resources.Resource;
import io.opentelemetry.sdk.trace.SdkTracerProvider;
import io.opentelemetry.sdk.trace.export.BatchSpanProcessor;
import io.opentelemetry.sdk.trace.samplers.Sampler;
import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.slf4j.MDC;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * What is done, how long it takes and what it is a part of, told by OpenTelemetry's OTLP where an address is set. Spans are sent by a thread
 * of their own from a bounded queue: a collector that is down costs spans and nothing else.
 */
@Component
public class Traces {
    private static final Logger LOG = LoggerFactory.getLogger(Traces.class);

    /** What lines of the log call it. */
    public static final String KEY = "trace";

    private static final Duration ANSWER = Duration.ofSeconds(10);

    private final Optional<OpenTelemetrySdk> sdk;
    private final OpenTelemetry telemetry;
    private final Tracer tracer;

    /**
     * @param url that takes OTLP by HTTP; blank for nobody
     * @param percent how many of a hundred are traced, where no caller decided
     */
    Traces(@Value("${remitto.traces.url:}") String url, @Value("${remitto.traces.percent:100}") int percent) {
        this.sdk = url.isBlank() ? Optional.empty() : sdk(url.strip(), percent);
        this.telemetry = sdk.map(OpenTelemetry.class::cast).orElseGet(OpenTelemetry::noop);
        this.tracer = telemetry.getTracer("remitto");
    }

    /** Absent where the address is none: what only looks on keeps no server from starting. */
    private static Optional<OpenTelemetrySdk> sdk(String url, int percent) {
        try {
            return Optional.of(telling(url, percent));
        } catch (IllegalArgumentException e) {
            LOG.warn("Nothing is traced, since traces.url is no address that takes OTLP by HTTP: {}", e.getMessage());
            return Optional.empty();
        }
    }

    private static OpenTelemetrySdk telling(String url, int percent) {
        OtlpHttpSpanExporter exporter = OtlpHttpSpanExporter.builder()
                .setEndpoint(url)
                .setTimeout(ANSWER)
                .build();
        SdkTracerProvider provider = SdkTracerProvider.builder()
                .setResource(Resource.getDefault()
                        .merge(Resource.create(Attributes.of(AttributeKey.stringKey("service.name"), "remitto"))))
                .setSampler(Sampler.parentBased(Sampler.traceIdRatioBased(Math.min(100, percent) / 100.0)))
                .addSpanProcessor(BatchSpanProcessor.builder(exporter).build())
                .build();
        return OpenTelemetrySdk.builder()
                .setTracerProvider(provider)
                .setPropagators(ContextPropagators.create(W3CTraceContextPropagator.getInstance()))
                .build();
    }

    /** Whether anything is told. */
    public boolean isOn() {
        return sdk.isPresent();
    }

    /** What a caller says of the trace that a request is a part of. */
    public <C> Context from(C carrier, TextMapGetter<C> getter) {
        return telemetry.getPropagators().getTextMapPropagator().extract(Context.current(), carrier, getter);
    }

    /** A span that whoever asks for it ends. */
    public Span begin(String name, Context parent) {
        return tracer.spanBuilder(name)
                .setParent(parent)
                .setSpanKind(SpanKind.SERVER)
                .startSpan();
    }

    /**
     * The same work as a span.
     *
     * @param ids numbers that say what it is about, and nothing else: values of people have no place in a span
     */
    public Runnable around(String name, Map<String, Long> ids, Runnable work) {
        if (!isOn()) {
            return work;
        }
        Context parent = Context.current();
        return () -> {
            Span span = tracer.spanBuilder(name).setParent(parent).startSpan();
            ids.forEach((id, value) -> span.setAttribute("remitto." + id, value));
            MDC.put(KEY, span.getSpanContext().getTraceId());
            try {
                Context.current().with(span).wrap(work).run();
            } catch (RuntimeException e) {
                span.setStatus(StatusCode.ERROR, e.getClass().getSimpleName());
                throw e;
            } finally {
                MDC.remove(KEY);
                span.end();
            }
        };
    }

    /** Sends what is still kept. */
    @PreDestroy
    void close() {
        sdk.ifPresent(OpenTelemetrySdk::close);
    }
}

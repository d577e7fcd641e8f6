package remitto.server.observability;

import io.opentelemetry.api.trace.Span;
import io.opentelemetry.api.trace.StatusCode;
import io.opentelemetry.context.Scope;
import io.opentelemetry.context.propagation.TextMapGetter;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Collections;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.slf4j.MDC;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.servlet.HandlerMapping;
import remitto.server.platform.Traces;

/**
 * Every request of the API as a span, a part of the trace that its caller began (W3C Trace Context). It is called by the pattern of its
 * address, never by the address: that may hold a key.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 3)
class RequestTraces extends OncePerRequestFilter {
    private static final TextMapGetter<HttpServletRequest> HEADERS = new TextMapGetter<>() {
        @Override
        public Iterable<String> keys(HttpServletRequest carrier) {
            return Collections.list(carrier.getHeaderNames());
        }

        @Override
        public @Nullable String get(@Nullable HttpServletRequest carrier, String key) {
            return carrier == null ? null : carrier.getHeader(key);
        }
    };

    private final Traces traces;

    RequestTraces(Traces traces) {
        this.traces = traces;
    }

    @Override
    protected boolean shouldNotFilter(HttpServletRequest request) {
        return !traces.isOn() || !request.getServletPath().startsWith("/api/");
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        Span span = traces.begin(request.getMethod(), traces.from(request, HEADERS));
        MDC.put(Traces.KEY, span.getSpanContext().getTraceId());
        Scope scope = span.makeCurrent();
        try {
            chain.doFilter(request, response);
        } finally {
            scope.close();
            MDC.remove(Traces.KEY);
            Object pattern = Optional.ofNullable(request.getAttribute(HandlerMapping.BEST_MATCHING_PATTERN_ATTRIBUTE))
                    .orElse("/api/**");
            span.updateName(request.getMethod() + " " + pattern);
            span.setAttribute("http.request.method", request.getMethod());
            span.setAttribute("http.route", String.valueOf(pattern));
            span.setAttribute("http.response.status_code", response.getStatus());
            if (response.getStatus() >= 500) {
                span.setStatus(StatusCode.ERROR);
            }
            span.end();
        }
    }
}

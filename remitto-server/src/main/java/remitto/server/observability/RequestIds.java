package remitto.server.observability;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Optional;
import java.util.UUID;
import java.util.regex.Pattern;
import org.slf4j.MDC;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Gives every request an id: the one that a proxy gave it in {@code X-Request-Id}, or a new one. The answer carries it, and so does
 * every line that the request logs.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 2)
class RequestIds extends OncePerRequestFilter {
    static final String HEADER = "X-Request-Id";
    private static final String KEY = "request";
    private static final Pattern FIT = Pattern.compile("[A-Za-z0-9._-]{8,64}");

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        String id = Optional.ofNullable(request.getHeader(HEADER))
                .filter(given -> FIT.matcher(given).matches())
                .orElseGet(() -> UUID.randomUUID().toString());
        response.setHeader(HEADER, id);
        MDC.put(KEY, id);
        try {
            chain.doFilter(request, response);
        } finally {
            MDC.remove(KEY);
        }
    }
}

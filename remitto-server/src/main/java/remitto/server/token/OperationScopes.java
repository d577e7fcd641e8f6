package remitto.server.token;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpMethod;
import org.springframework.http.server.PathContainer;
import org.springframework.stereotype.Component;
import org.springframework.web.util.pattern.PathPattern;
import org.springframework.web.util.pattern.PathPatternParser;

/**
 * Which scope each operation of the API needs. The first line that fits an operation counts; what changes something and fits none
 * needs {@link Scope#DEFINE}, so that an operation which nobody thought of here is not open to tokens that only read or send.
 */
@Component
public class OperationScopes {
    private final List<Line> lines = new ArrayList<>();

    OperationScopes() {
        // Whom a token belongs to.
        of(HttpMethod.GET, Scope.READ, "/api/session");
        forPeopleOnly(
                "/api/session/**",
                "/api/drafts/**",
                "/api/welcome/**",
                "/api/sign-in/**",
                "/api/destinations/*/sign-in");
        every(Scope.ADMINISTER, "/api/users/**", "/api/service-accounts/**");
        of(HttpMethod.PUT, Scope.ADMINISTER, "/api/retention/*");
        of(
                HttpMethod.POST,
                Scope.ADMINISTER,
                "/api/hash-keys",
                "/api/sources/*/accept-login",
                "/api/destinations/*/let-in");
        of(HttpMethod.POST, Scope.APPROVE, "/api/runs/*/approve", "/api/people/runs/*/approve", "/api/erasures/**");
        of(HttpMethod.POST, Scope.SEND, "/api/runs/*/send", "/api/stocktakes/*/decisions", "/api/destinations/*/bench");
        of(HttpMethod.DELETE, Scope.SEND, "/api/test-records");
        of(
                HttpMethod.POST,
                Scope.PREPARE,
                "/api/routes/*/runs",
                "/api/routes/*/resend",
                "/api/routes/*/held/*",
                "/api/runs/*/prepare-again",
                "/api/runs/*/undo",
                "/api/runs/*/discard",
                "/api/runs/*/cancel",
                "/api/people/runs",
                "/api/people/runs/*/discard",
                "/api/people/quality",
                "/api/audiences/refreshes",
                "/api/audiences/*/counts",
                "/api/measures/*/refreshes",
                "/api/events/*/readings",
                "/api/consents/*/readings",
                "/api/datasets/*/freshness",
                "/api/sources/*/test",
                "/api/destinations/*/test",
                "/api/destinations/*/objects/*/refresh",
                "/api/destinations/*/objects/*/stocktakes",
                "/api/approval-requests",
                "/api/*/*/what-if",
                "/api/*/*/differences",
                "/api/routes/*/try",
                "/api/routes/*/examples/check",
                "/api/routes/check",
                "/api/datasets/preview",
                "/api/datasets/check-key",
                "/api/datasets/*/check",
                "/api/datasets/*/expectations/rows",
                "/api/file-sets/*/readings",
                "/api/file-sets/sample",
                "/api/receivers/*/sample",
                "/api/receivers/*/replay",
                "/api/profiles/check",
                "/api/definitions/plan");
        of(HttpMethod.DELETE, Scope.PREPARE, "/api/what-if/*", "/api/file-sets/readings/*");
        // These read a source or call a destination, so that looking on is not enough.
        of(
                HttpMethod.GET,
                Scope.PREPARE,
                "/api/people/*/file",
                "/api/people/*/file.json",
                "/api/destinations/*/accounts",
                "/api/destinations/*/prerequisites",
                "/api/destinations/*/named",
                "/api/datasets/*/records",
                "/api/file-sets/matches",
                "/api/audiences/*/columns",
                "/api/crosswalks/*/unmapped");
        of(HttpMethod.POST, Scope.READ, "/api/conditions/*", "/api/audiences/*/effect");
        of(HttpMethod.GET, Scope.READ, "/api/**");
        every(Scope.DEFINE, "/api/**");
    }

    /** @param method empty for each */
    private record Line(Optional<HttpMethod> method, PathPattern path, Optional<Scope> scope) {
        boolean fits(HttpMethod asked, PathContainer at) {
            return method.map(asked::equals).orElse(true) && path.matches(at);
        }
    }

    private void forPeopleOnly(String... paths) {
        add(Optional.empty(), Optional.empty(), paths);
    }

    private void every(Scope scope, String... paths) {
        add(Optional.empty(), Optional.of(scope), paths);
    }

    private void of(HttpMethod method, Scope scope, String... paths) {
        add(Optional.of(method), Optional.of(scope), paths);
    }

    private void add(Optional<HttpMethod> method, Optional<Scope> scope, String... paths) {
        for (String path : paths) {
            lines.add(new Line(method, PathPatternParser.defaultInstance.parse(path), scope));
        }
    }

    /** @return empty when no token may call it, whatever its scopes */
    public Optional<Scope> needed(HttpMethod method, String path) {
        HttpMethod asked = method.equals(HttpMethod.HEAD) ? HttpMethod.GET : method;
        PathContainer at = PathContainer.parsePath(path);
        return lines.stream().filter(line -> line.fits(asked, at)).findFirst().flatMap(Line::scope);
    }
}

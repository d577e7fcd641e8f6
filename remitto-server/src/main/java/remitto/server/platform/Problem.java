package remitto.server.platform;

import java.util.List;
import org.springframework.http.HttpStatus;

/** A request that cannot be done, told so that a person can act on it. Becomes a problem document (RFC 9457). */
public final class Problem extends RuntimeException {
    private final HttpStatus status;
    private final transient List<Detail> details;

    /** Where somebody else has to say yes. */
    public static final String APPROVER = "approver";

    /** One of several things that are wrong, and with which part of the request. */
    public record Detail(String where, String message) {}

    public Problem(HttpStatus status, String message, List<Detail> details) {
        super(message);
        this.status = status;
        this.details = List.copyOf(details);
    }

    public static Problem notFound(String what) {
        return new Problem(HttpStatus.NOT_FOUND, "There is no " + what + ".", List.of());
    }

    public static Problem invalid(String message) {
        return new Problem(HttpStatus.UNPROCESSABLE_CONTENT, message, List.of());
    }

    public static Problem conflict(String message) {
        return new Problem(HttpStatus.CONFLICT, message, List.of());
    }

    public HttpStatus status() {
        return status;
    }

    public List<Detail> details() {
        return details;
    }
}

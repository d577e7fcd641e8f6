package remitto.server.failure;

import java.sql.SQLException;
import java.util.Locale;
import java.util.Optional;
import org.apache.catalina.connector.ClientAbortException;
import org.apache.tomcat.util.http.InvalidParameterException;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.io.ClassPathResource;
import org.springframework.core.io.Resource;
import org.springframework.core.task.TaskRejectedException;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.jdbc.CannotGetJdbcConnectionException;
import org.springframework.transaction.CannotCreateTransactionException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.context.request.async.AsyncRequestNotUsableException;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;
import org.springframework.web.servlet.resource.NoResourceFoundException;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.source.SourceProblem;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.Right;
import remitto.server.permission.Role;
import remitto.server.platform.BodyLimit;
import remitto.server.platform.Problem;
import tools.jackson.core.JacksonException;

/** Turns failures into problem documents. No answer holds the name of a class, or the words of a database unless the asker may see them. */
@RestControllerAdvice
class ProblemAdvice extends ResponseEntityExceptionHandler {
    private static final Logger LOG = LoggerFactory.getLogger(ProblemAdvice.class);

    /** SQLSTATEs as PostgreSQL's manual lists them (appendix A). */
    private static final String FOREIGN_KEY = "23503";

    private static final String BAD_CHARACTER = "22021";
    private static final String BAD_TEXT = "22P05";

    /** The page of every address inside the front end. */
    private static final Resource FRONT_END = new ClassPathResource("static/index.html");

    private final CurrentUser user;

    ProblemAdvice(CurrentUser user) {
        this.user = user;
    }

    @ExceptionHandler
    ProblemDetail problem(Problem problem) {
        ProblemDetail detail = detail(problem.status(), code(problem.status()), text(problem));
        if (!problem.details().isEmpty()) {
            detail.setProperty("details", problem.details());
        }
        return detail;
    }

    /** What a server says of a query can hold values of its rows, so only those who may see them are told. */
    @ExceptionHandler
    ProblemDetail source(SourceProblem problem) {
        ProblemDetail detail = detail(
                HttpStatus.UNPROCESSABLE_CONTENT,
                "source-" + lower(problem.kind()),
                maySeeValues() ? problem.withServersWords() : text(problem));
        detail.setProperty("kind", problem.kind().name());
        problem.position().ifPresent(at -> detail.setProperty("position", at));
        return detail;
    }

    @ExceptionHandler
    ProblemDetail destination(DestinationProblem problem) {
        ProblemDetail detail = detail(
                HttpStatus.FAILED_DEPENDENCY,
                "destination-" + lower(problem.kind()),
                maySeeValues() ? text(problem) : "The destination refused this (" + lower(problem.kind()) + ").");
        detail.setProperty("kind", problem.kind().name());
        return detail;
    }

    private boolean maySeeValues() {
        return user.isAtLeast(Role.EDITOR) && user.may(Right.SEE_PERSONAL_VALUES);
    }

    @ExceptionHandler
    ProblemDetail duplicate(DuplicateKeyException e) {
        LOG.debug("Duplicate", e);
        return detail(HttpStatus.CONFLICT, "duplicate", "Something with this name exists already.");
    }

    /** What names something that is not there, or holds a character that no text may, is the asker's fault. */
    @ExceptionHandler
    ProblemDetail integrity(DataIntegrityViolationException e) {
        String state = e.getMostSpecificCause() instanceof SQLException sql
                ? Optional.ofNullable(sql.getSQLState()).orElse("")
                : "";
        return switch (state) {
            case FOREIGN_KEY ->
                detail(HttpStatus.UNPROCESSABLE_CONTENT, "invalid", "The request names something that does not exist.");
            case BAD_CHARACTER, BAD_TEXT ->
                detail(
                        HttpStatus.BAD_REQUEST,
                        "bad-request",
                        "A text of the request holds a character that texts do not have.");
            default -> anythingElse(e);
        };
    }

    /** A parameter that cannot even be taken apart. */
    @ExceptionHandler
    ProblemDetail parameters(InvalidParameterException e) {
        LOG.debug("Parameters", e);
        return detail(HttpStatus.BAD_REQUEST, "bad-request", "A parameter is missing or not valid.");
    }

    @ExceptionHandler({
        TaskRejectedException.class,
        CannotGetJdbcConnectionException.class,
        CannotCreateTransactionException.class
    })
    ResponseEntity<ProblemDetail> busy(Exception e) {
        LOG.warn("Too much at once: {}", e.getMessage());
        return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE)
                .header(HttpHeaders.RETRY_AFTER, "5")
                .body(detail(HttpStatus.SERVICE_UNAVAILABLE, "busy", "The server is busy. Try again shortly."));
    }

    @Override
    protected ResponseEntity<Object> handleHttpMessageNotReadable(
            HttpMessageNotReadableException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        if (e.getMostSpecificCause() instanceof BodyLimit.TooLarge) {
            return handleExceptionInternal(e, null, headers, HttpStatus.CONTENT_TOO_LARGE, request);
        }
        ProblemDetail detail = detail(HttpStatus.BAD_REQUEST, "unreadable", unreadable(e));
        return new ResponseEntity<>(detail, headers, HttpStatus.BAD_REQUEST);
    }

    /** Where the body does not fit, and our own words on it where there are any. */
    private static String unreadable(HttpMessageNotReadableException e) {
        Throwable cause = e.getMostSpecificCause();
        if (isOurs(cause)) {
            return text(cause);
        }
        String path = e.getCause() instanceof JacksonException jackson
                ? jackson.getPath().stream()
                        .map(part -> part.getPropertyName() == null
                                ? "[" + part.getIndex() + "]"
                                : "." + part.getPropertyName())
                        .reduce("", String::concat)
                        .replaceFirst("^\\.", "")
                : "";
        return path.isEmpty()
                ? "The request body cannot be read. It is JSON as the operation describes it."
                : "The request body does not fit at " + path + ". A value is missing or of another type.";
    }

    /** Everything that the framework refuses by itself. */
    @Override
    protected ResponseEntity<Object> handleExceptionInternal(
            Exception e, @Nullable Object body, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        HttpStatus known =
                Optional.ofNullable(HttpStatus.resolve(status.value())).orElse(HttpStatus.BAD_REQUEST);
        if (known.is5xxServerError()) {
            return ResponseEntity.status(known).body(anythingElse(e));
        }
        String words =
                switch (known) {
                    case NOT_FOUND -> "This address does not exist.";
                    case METHOD_NOT_ALLOWED -> "This address does not support this method.";
                    case UNSUPPORTED_MEDIA_TYPE -> "The request body is not of a media type that is taken here.";
                    case NOT_ACCEPTABLE -> "There is no answer of a media type that is accepted.";
                    case CONTENT_TOO_LARGE -> "The request is larger than this address takes.";
                    default -> "A parameter is missing or not valid.";
                };
        return new ResponseEntity<>(detail(known, code(known), words), headers, known);
    }

    /** An address that a person opened gets a page that says so; a program is told in a problem document. */
    @Override
    protected @Nullable ResponseEntity<Object> handleNoResourceFoundException(
            NoResourceFoundException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        return FRONT_END.exists() && isOpenedByAPerson(e, request)
                ? ResponseEntity.status(HttpStatus.NOT_FOUND)
                        .contentType(MediaType.TEXT_HTML)
                        .cacheControl(CacheControl.noStore())
                        .body(FRONT_END)
                : super.handleNoResourceFoundException(e, headers, status, request);
    }

    private static boolean isOpenedByAPerson(NoResourceFoundException e, WebRequest request) {
        String accepted =
                Optional.ofNullable(request.getHeader(HttpHeaders.ACCEPT)).orElse("");
        return e.getHttpMethod() == HttpMethod.GET
                && accepted.contains(MediaType.TEXT_HTML_VALUE)
                && !e.getResourcePath().startsWith("api/")
                && !e.getResourcePath().startsWith("/api/");
    }

    @ExceptionHandler
    ProblemDetail invalid(IllegalArgumentException e) {
        return isOurs(e) ? detail(HttpStatus.UNPROCESSABLE_CONTENT, "invalid", text(e)) : anythingElse(e);
    }

    /** Whether an exception was thrown by our own code, which speaks to people. */
    private static boolean isOurs(Throwable e) {
        StackTraceElement[] trace = e.getStackTrace();
        return e.getMessage() != null
                && (e instanceof Problem
                        || e instanceof IllegalArgumentException
                                && trace.length > 0
                                && trace[0].getClassName().startsWith("remitto."));
    }

    /** Whoever asked is gone, so nobody is told. */
    @ExceptionHandler
    void goneAway(ClientAbortException e) {
        LOG.debug("Nobody waits for the answer any more", e);
    }

    @Override
    protected @Nullable ResponseEntity<Object> handleAsyncRequestNotUsableException(
            AsyncRequestNotUsableException e, WebRequest request) {
        LOG.debug("Nobody waits for the answer any more", e);
        return null;
    }

    @ExceptionHandler
    ProblemDetail anythingElse(Exception e) {
        String reference = Long.toHexString(System.identityHashCode(e) & 0xffffffffL);
        LOG.error("A request failed, reference {}", reference, e);
        ProblemDetail detail = detail(
                HttpStatus.INTERNAL_SERVER_ERROR,
                "unexpected",
                "Something unexpected failed. The server's log has it under reference " + reference + ".");
        detail.setProperty("reference", reference);
        return detail;
    }

    static ProblemDetail detail(HttpStatus status, String code, String words) {
        ProblemDetail detail = ProblemDetail.forStatusAndDetail(status, words);
        detail.setProperty("code", code);
        return detail;
    }

    private static String code(HttpStatus status) {
        return lower(status);
    }

    private static String lower(Enum<?> kind) {
        return kind.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    private static String text(Throwable e) {
        return Optional.ofNullable(e.getMessage()).orElse("This cannot be done.");
    }
}

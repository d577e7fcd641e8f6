package remitto.server.platform;

import java.util.Map;
import java.util.Optional;
import org.apache.catalina.connector.ClientAbortException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.async.AsyncRequestNotUsableException;
import org.springframework.web.servlet.resource.NoResourceFoundException;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.warehouse.WarehouseProblem;

/** Turns failures into problem documents. */
@RestControllerAdvice
class ProblemAdvice {
    private static final Logger LOG = LoggerFactory.getLogger(ProblemAdvice.class);

    @ExceptionHandler
    ProblemDetail problem(Problem problem) {
        ProblemDetail detail = ProblemDetail.forStatusAndDetail(problem.status(), text(problem));
        if (!problem.details().isEmpty()) {
            detail.setProperties(Map.of("details", problem.details()));
        }
        return detail;
    }

    @ExceptionHandler
    ProblemDetail warehouse(WarehouseProblem problem) {
        ProblemDetail detail = ProblemDetail.forStatusAndDetail(HttpStatus.UNPROCESSABLE_CONTENT, text(problem));
        detail.setProperty("kind", problem.kind().name());
        problem.position().ifPresent(at -> detail.setProperty("position", at));
        return detail;
    }

    @ExceptionHandler
    ProblemDetail destination(DestinationProblem problem) {
        ProblemDetail detail = ProblemDetail.forStatusAndDetail(HttpStatus.BAD_GATEWAY, text(problem));
        detail.setProperty("kind", problem.kind().name());
        return detail;
    }

    @ExceptionHandler
    ProblemDetail duplicate(DuplicateKeyException e) {
        LOG.debug("Duplicate", e);
        return ProblemDetail.forStatusAndDetail(HttpStatus.CONFLICT, "There is one of that name already.");
    }

    @ExceptionHandler
    ProblemDetail unreadable(HttpMessageNotReadableException e) {
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.BAD_REQUEST, "The request cannot be read: " + text(e.getMostSpecificCause()));
    }

    @ExceptionHandler
    ProblemDetail invalid(IllegalArgumentException e) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.UNPROCESSABLE_CONTENT, text(e));
    }

    @ExceptionHandler
    ProblemDetail missing(NoResourceFoundException e) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.NOT_FOUND, "There is nothing here.");
    }

    /** Whoever asked is gone, so nobody is told. */
    @ExceptionHandler({ClientAbortException.class, AsyncRequestNotUsableException.class})
    void goneAway(Exception e) {
        LOG.debug("Nobody waits for the answer any more", e);
    }

    @ExceptionHandler
    ProblemDetail anythingElse(Exception e) {
        LOG.error("A request failed", e);
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.INTERNAL_SERVER_ERROR, "This is our fault; the server's log says what happened.");
    }

    private static String text(Throwable e) {
        return Optional.ofNullable(e.getMessage()).orElse(e.getClass().getSimpleName());
    }
}

package remitto.server.receiver;

import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import remitto.core.receiver.CallCheck;
import remitto.core.receiver.CallHeaders;
import remitto.core.receiver.CallVerdict;
import remitto.server.platform.Json;

/**
 * Where other tools call: {@code POST /in/} and what tells the receiver apart. Answers 200 once the call is on disk, and otherwise a
 * problem document (RFC 9457): 401 for one that is not of the tool, 404, 405, 413, 429 and 503 with when to come again.
 */
@Component
final class CallServlet extends HttpServlet {
    private static final long serialVersionUID = 1L;
    private static final Duration LONGEST = Duration.ofSeconds(10);
    private static final int MOST_HEADERS = 100;
    private static final int LONGEST_HEADER = 2_000;
    private static final int REFUSED_BODY = 2_000;
    /** Between us and the caller's side of the line; they tell nothing of the call. */
    private static final List<String> NOT_KEPT = List.of(
            "connection",
            "host",
            "content-length",
            "transfer-encoding",
            "accept-encoding",
            "keep-alive",
            "upgrade",
            "http2-settings");

    private final transient KnownReceivers receivers;
    private final transient CallLimits limits;
    private final transient CallRoom room;
    private final transient CallKeeper keeper;
    private final transient Json json;

    CallServlet(KnownReceivers receivers, CallLimits limits, CallRoom room, CallKeeper keeper, Json json) {
        this.receivers = receivers;
        this.limits = limits;
        this.room = room;
        this.keeper = keeper;
        this.json = json;
    }

    @Override
    protected void service(HttpServletRequest request, HttpServletResponse response) throws IOException {
        if (!room.enter()) {
            full(response);
            return;
        }
        try {
            answered(request, response);
        } catch (DataAccessException | TransactionException e) {
            log("whom a call is for could not be looked up", e);
            again(
                    response,
                    HttpStatus.SERVICE_UNAVAILABLE,
                    Duration.ofSeconds(5),
                    "Calls cannot be stored right now. Send the call again in a few seconds.");
        } finally {
            room.leave();
        }
    }

    private void full(HttpServletResponse response) throws IOException {
        again(
                response,
                HttpStatus.SERVICE_UNAVAILABLE,
                Duration.ofSeconds(1),
                "Too many calls at once. Send the call again in a moment.");
    }

    private void answered(HttpServletRequest request, HttpServletResponse response) throws IOException {
        String path = Optional.ofNullable(request.getPathInfo()).orElse("/").substring(1);
        Optional<KnownReceivers.Called> receiver = receivers.by(path);
        if (receiver.isEmpty()) {
            answer(response, HttpStatus.NOT_FOUND, "No receiver has this address.");
        } else if (!request.getMethod().equals("POST") && !request.getMethod().equals("PUT")) {
            response.setHeader("Allow", "POST, PUT");
            answer(response, HttpStatus.METHOD_NOT_ALLOWED, "Calls are made by POST.");
        } else if (!room.enter(receiver.get().id())) {
            full(response);
        } else {
            try {
                call(receiver.get(), request, response);
            } finally {
                room.leave(receiver.get().id());
            }
        }
    }

    private void call(KnownReceivers.Called receiver, HttpServletRequest request, HttpServletResponse response)
            throws IOException {
        Optional<Duration> wait = limits.count(receiver);
        if (wait.isPresent()) {
            again(response, HttpStatus.TOO_MANY_REQUESTS, wait.get(), "This receiver takes no more calls for now.");
            return;
        }
        CallCheck check = receiver.definition().check();
        CallHeaders headers = headers(request);
        int most = receiver.definition().mostKilobytes() * 1024;
        byte[] body = body(request, most);
        ArrivedCall call = new ArrivedCall(
                receiver.id(),
                receivers.now(),
                headers.masked(check.secretHeaders())
                        .masked(List.copyOf(CallCheck.NEVER_SHOWN))
                        .without(receiver.valid(receivers.now())),
                body,
                CallVerdict.WAITING,
                "");
        if (body.length > most) {
            String problem = "The body is larger than the "
                    + receiver.definition().mostKilobytes() + " KB that this receiver takes.";
            refused(call, problem);
            answer(response, HttpStatus.CONTENT_TOO_LARGE, problem);
            return;
        }
        Optional<String> fault = check.fault(headers, body, receiver.valid(call.at()), call.at());
        if (fault.isPresent()) {
            refused(call, fault.get());
            if (check instanceof CallCheck.BasicSecret) {
                response.setHeader("WWW-Authenticate", "Basic realm=\"receiver\", charset=\"UTF-8\"");
            }
            answer(response, HttpStatus.UNAUTHORIZED, fault.get());
            return;
        }
        kept(call, response);
    }

    private void kept(ArrivedCall call, HttpServletResponse response) throws IOException {
        try {
            if (keeper.keep(call).get(LONGEST.toMillis(), TimeUnit.MILLISECONDS)) {
                response.setStatus(HttpStatus.OK.value());
                write(response, MediaType.APPLICATION_JSON_VALUE, Map.of("kept", true));
                return;
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (ExecutionException | TimeoutException e) {
            // What went wrong is in the log; the caller learns that the call may not have been kept.
            log("a call was not kept in time", e);
        }
        again(
                response,
                HttpStatus.SERVICE_UNAVAILABLE,
                Duration.ofSeconds(5),
                "The call could not be kept. Send it again.");
    }

    private void refused(ArrivedCall call, String problem) {
        if (limits.isRefusalKept(call.receiver())) {
            keeper.keep(new ArrivedCall(
                    call.receiver(),
                    call.at(),
                    call.headers(),
                    Arrays.copyOf(call.body(), Math.min(call.body().length, REFUSED_BODY)),
                    CallVerdict.REFUSED,
                    problem));
        }
    }

    /** One byte more than is taken tells that there was more. */
    private static byte[] body(HttpServletRequest request, int most) throws IOException {
        try (InputStream in = request.getInputStream()) {
            return in.readNBytes(most + 1);
        }
    }

    private static CallHeaders headers(HttpServletRequest request) {
        Map<String, String> headers = new TreeMap<>();
        for (String name : Collections.list(request.getHeaderNames())) {
            String small = name.toLowerCase(Locale.ROOT);
            if (headers.size() < MOST_HEADERS && !NOT_KEPT.contains(small)) {
                String value = String.join(", ", Collections.list(request.getHeaders(name)));
                headers.put(small, value.length() > LONGEST_HEADER ? value.substring(0, LONGEST_HEADER) : value);
            }
        }
        return new CallHeaders(headers);
    }

    private void again(HttpServletResponse response, HttpStatus status, Duration wait, String problem)
            throws IOException {
        response.setHeader(
                "Retry-After", Long.toString(Math.max(1, wait.plusMillis(999).toSeconds())));
        answer(response, status, problem);
    }

    private void answer(HttpServletResponse response, HttpStatus status, String problem) throws IOException {
        response.setStatus(status.value());
        write(
                response,
                MediaType.APPLICATION_PROBLEM_JSON_VALUE,
                Map.of("title", status.getReasonPhrase(), "status", status.value(), "detail", problem));
    }

    private void write(HttpServletResponse response, String type, Map<String, Object> body) throws IOException {
        response.setContentType(type);
        response.setHeader("Cache-Control", "no-store");
        response.getOutputStream().write(json.mapper().writeValueAsBytes(body));
    }
}

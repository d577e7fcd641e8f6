package remitto.server.failure;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.web.AuthenticationEntryPoint;
import org.springframework.security.web.access.AccessDeniedHandler;
import org.springframework.security.web.firewall.RequestRejectedException;
import org.springframework.security.web.firewall.RequestRejectedHandler;
import org.springframework.stereotype.Component;
import remitto.server.platform.Json;

/** What is answered to whoever is not signed in, may not do what they ask for, or asks at an address that cannot be one. */
@Component
public class SecurityAnswers implements AuthenticationEntryPoint, AccessDeniedHandler, RequestRejectedHandler {
    private final Json json;

    SecurityAnswers(Json json) {
        this.json = json;
    }

    @Override
    public void commence(HttpServletRequest request, HttpServletResponse response, AuthenticationException e)
            throws IOException {
        write(response, HttpStatus.UNAUTHORIZED, "Sign in first.");
    }

    @Override
    public void handle(HttpServletRequest request, HttpServletResponse response, AccessDeniedException e)
            throws IOException {
        write(response, HttpStatus.FORBIDDEN, "Your role may not do this.");
    }

    @Override
    public void handle(HttpServletRequest request, HttpServletResponse response, RequestRejectedException e)
            throws IOException {
        write(response, HttpStatus.BAD_REQUEST, "The address holds characters that addresses here do not have.");
    }

    /** @param status of the answer; its name is the problem's code */
    public void write(HttpServletResponse response, HttpStatus status, String words) throws IOException {
        response.setStatus(status.value());
        response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
        response.getOutputStream()
                .write(json.mapper()
                        .writeValueAsBytes(ProblemAdvice.detail(
                                status,
                                status.name().toLowerCase(java.util.Locale.ROOT).replace('_', '-'),
                                words)));
    }
}

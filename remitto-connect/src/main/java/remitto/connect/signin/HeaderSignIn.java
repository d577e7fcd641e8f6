package remitto.connect.signin;

import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.Map;

/** The same header on every call. */
public record HeaderSignIn(String header, String value) implements SignIn {
    public static HeaderSignIn bearer(String token) {
        return new HeaderSignIn("Authorization", "Bearer " + token);
    }

    /** HTTP Basic (RFC 7617), in UTF-8. */
    public static HeaderSignIn basic(String user, String password) {
        String pair = user + ":" + password;
        return new HeaderSignIn(
                "Authorization", "Basic " + Base64.getEncoder().encodeToString(pair.getBytes(StandardCharsets.UTF_8)));
    }

    @Override
    public String sign(HttpRequest.Builder request, Map<String, String> headers, byte[] body) {
        request.setHeader(header, value);
        return "";
    }

    @Override
    public String toString() {
        return "HeaderSignIn[" + header + "]";
    }
}

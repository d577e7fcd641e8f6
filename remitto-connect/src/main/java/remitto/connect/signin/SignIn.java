package remitto.connect.signin;

import java.net.http.HttpRequest;
import java.util.Map;

/** Puts onto a call what lets it in. Safe to share between threads. */
public interface SignIn {
    /**
     * @param headers of the call, as far as the profile says
     * @return what the call was let in with, to be named when it is refused; blank when there is nothing to renew
     */
    String sign(HttpRequest.Builder request, Map<String, String> headers, byte[] body);

    /**
     * The tool refused what a call was let in with: gets another, unless another thread has.
     *
     * @return false when the call need not be made again
     */
    default boolean renew(String used) {
        return false;
    }
}

package remitto.server.platform;

import java.nio.file.Path;
import java.util.List;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * Settings of a server process.
 *
 * @param secretKeyFile file that holds the key secrets are encrypted with; made when absent
 * @param outgoingAllowed private or loopback hosts that destinations may be called at; none unless they are listed
 * @param publicAddress that people reach the server at, where a proxy stands before it; blank for the one it is asked at
 * @param letInOrigins origins that data may go to without an administrator letting them in, such as {@code http://127.0.0.1:*}
 * @param outbox folder below which destinations on this machine get their files
 * @param administrator who is made when there is no user yet
 */
@ConfigurationProperties("remitto")
public record RemittoProperties(
        Path secretKeyFile,
        List<String> outgoingAllowed,
        String publicAddress,
        List<String> letInOrigins,
        Path outbox,
        Administrator administrator) {
    public record Administrator(String email, String password) {}
}

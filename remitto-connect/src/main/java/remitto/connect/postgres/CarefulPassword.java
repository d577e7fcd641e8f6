package remitto.connect.postgres;

import java.util.Properties;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGProperty;
import org.postgresql.plugin.AuthenticationPlugin;
import org.postgresql.plugin.AuthenticationRequestType;
import org.postgresql.util.PSQLException;
import org.postgresql.util.PSQLState;

/**
 * Gives a password to the driver. A server that asks for it in clear text gets it only where TLS has verified who the server is: any
 * program that answers at an address can ask, and would then know it. Made by the driver, from its settings.
 */
public final class CarefulPassword implements AuthenticationPlugin {
    private final boolean verified;
    private final String password;

    public CarefulPassword(Properties settings) {
        this.verified = "verify-full".equals(PGProperty.SSL_MODE.getOrDefault(settings));
        String given = PGProperty.PASSWORD.getOrDefault(settings);
        this.password = given == null ? "" : given;
    }

    @Override
    public char @Nullable [] getPassword(AuthenticationRequestType type) throws PSQLException {
        if (type == AuthenticationRequestType.CLEARTEXT_PASSWORD && !verified) {
            throw new PSQLException(
                    "The server asks for the password in clear text. It is sent only over TLS with a verified certificate;"
                            + " set TLS to verified, or password_encryption and the server's pg_hba.conf to scram-sha-256.",
                    PSQLState.INVALID_AUTHORIZATION_SPECIFICATION);
        }
        return password.toCharArray();
    }
}

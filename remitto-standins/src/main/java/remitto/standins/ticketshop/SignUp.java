package remitto.standins.ticketshop;

import java.time.Instant;

/**
 * Somebody who signed up.
 *
 * @param port home port, by its name
 * @param newsletter whether letters are wanted
 * @param told whether whoever wants to know was told
 */
public record SignUp(
        String no,
        Instant at,
        String given,
        String family,
        String mail,
        String port,
        boolean newsletter,
        boolean told) {
    SignUp asTold() {
        return new SignUp(no, at, given, family, mail, port, newsletter, true);
    }
}

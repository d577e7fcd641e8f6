package remitto.server.receiver;

import java.time.Instant;
import remitto.core.receiver.CallHeaders;
import remitto.core.receiver.CallVerdict;

/**
 * A call as it came in.
 *
 * @param headers without secrets
 * @param problem why it is refused; blank if it is not
 */
record ArrivedCall(long receiver, Instant at, CallHeaders headers, byte[] body, CallVerdict verdict, String problem) {}

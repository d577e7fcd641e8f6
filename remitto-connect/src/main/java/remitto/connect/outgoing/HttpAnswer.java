package remitto.connect.outgoing;

import java.util.List;
import java.util.Map;

/**
 * What came back of a call.
 *
 * @param headers by name in lower case, several values in their order
 */
public record HttpAnswer(int status, Map<String, List<String>> headers, byte[] body) {}

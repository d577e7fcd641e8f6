package remitto.connect.call;

import java.util.Map;

/**
 * A record of a body.
 *
 * @param number of the record in its body, from 1
 * @param values as text, by the names on the way to them; without those that are null
 * @param event what CloudEvents or Standard Webhooks tell events apart by; blank in a call of neither
 * @param problem why it is no record; blank if it is one
 */
public record CallRecord(int number, Map<String, String> values, String event, String problem) {}

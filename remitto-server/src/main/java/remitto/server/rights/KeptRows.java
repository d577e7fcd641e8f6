package remitto.server.rights;

import java.util.List;
import java.util.Map;

/**
 * Rows that are kept as they came in, and that may be of somebody who is erased. Asked within the transaction of an erasure, which has
 * found the person's records ({@code gone_key}) and texts ({@code gone_text}, in small letters).
 */
public interface KeptRows {
    /** What is out of reach, in sentences without a name. */
    List<String> unreached();

    /** @return by kind of data, how many there were */
    Map<String, Long> forget();
}

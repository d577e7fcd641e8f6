package remitto.core.identity.record;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** The values of one attribute, each once, with how many records have it. Code 0 is no value. */
public final class Dictionary {
    private final Map<String, Integer> codes = new HashMap<>();
    private final List<String> values = new ArrayList<>(List.of(""));
    private int[] counts = new int[64];

    /** The value's code, counted once more; 0 for a blank one. */
    int add(String value) {
        if (value.isEmpty()) {
            return 0;
        }
        int code = codes.computeIfAbsent(value, fresh -> {
            values.add(fresh);
            return values.size() - 1;
        });
        if (code >= counts.length) {
            counts = Arrays.copyOf(counts, counts.length * 2);
        }
        counts[code]++;
        return code;
    }

    public String value(int code) {
        return values.get(code);
    }

    /** Records that have the value. */
    public int count(int code) {
        return counts[code];
    }

    /** Different values, and one for none; codes are below it. */
    public int size() {
        return values.size();
    }
}

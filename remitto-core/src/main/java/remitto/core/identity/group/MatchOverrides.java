package remitto.core.identity.group;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** What people decided about pairs of records, by their numbers; it holds through every run. */
public final class MatchOverrides {
    private final List<int[]> together = new ArrayList<>();
    private final Set<Long> apart = new HashSet<>();

    public void together(int one, int other) {
        together.add(new int[] {Math.min(one, other), Math.max(one, other)});
    }

    public void apart(int one, int other) {
        apart.add(pair(one, other));
    }

    List<int[]> together() {
        return together;
    }

    boolean keepsApart(int one, int other) {
        return !apart.isEmpty() && apart.contains(pair(one, other));
    }

    private static long pair(int one, int other) {
        return ((long) Math.min(one, other) << 32) | Math.max(one, other);
    }
}

package remitto.core.identity.compare;

/**
 * Optimal string alignment distance: Damerau's four slips (A technique for computer detection and correction of spelling
 * errors, CACM 7 (1964) 171), no letter edited twice.
 */
final class SlipDistance {
    private SlipDistance() {}

    static boolean atMost(String one, String other, int most) {
        if (Math.abs(one.length() - other.length()) > most) {
            return false;
        }
        return of(one, other, most) <= most;
    }

    /** The distance, or something over {@code most} when it is over that. */
    static int of(String one, String other, int most) {
        int n = other.length();
        int[] before = new int[n + 1];
        int[] last = new int[n + 1];
        int[] now = new int[n + 1];
        for (int j = 0; j <= n; j++) {
            last[j] = j;
        }
        for (int i = 1; i <= one.length(); i++) {
            now[0] = i;
            int least = i;
            for (int j = 1; j <= n; j++) {
                boolean same = one.charAt(i - 1) == other.charAt(j - 1);
                int cost = Math.min(Math.min(now[j - 1], last[j]) + 1, last[j - 1] + (same ? 0 : 1));
                boolean swapped = i > 1
                        && j > 1
                        && one.charAt(i - 1) == other.charAt(j - 2)
                        && one.charAt(i - 2) == other.charAt(j - 1);
                now[j] = swapped ? Math.min(cost, before[j - 2] + 1) : cost;
                least = Math.min(least, now[j]);
            }
            if (least > most) {
                return most + 1;
            }
            int[] free = before;
            before = last;
            last = now;
            now = free;
        }
        return last[n];
    }
}

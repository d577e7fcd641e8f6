package remitto.core.identity.group;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/** Gives persons their ids, so that who was a person before stays the same one. */
public final class PersonIds {
    private PersonIds() {}

    /**
     * @param ids by record, the id of its person; 0 only where there are no records
     * @param retired ids that are no person's any more, with the person most of their records went to, the lowest of several
     * @param fresh ids that were not there before
     * @param split persons some of whose records went to others
     */
    public record Assigned(long[] ids, Map<Long, Long> retired, Set<Long> fresh, Set<Long> split) {}

    private record Claim(long id, int group, int records) {}

    /**
     * An id stays with the group that most of its records are in. Where several ids come to one group, the lowest is kept: it
     * was given out first, and what destinations hold hangs on it the longest. What is left goes to the largest part.
     *
     * @param group by record, as {@link Groups#group()}
     * @param before by record, the id it had; 0 for none
     * @param next the first id that was never given out
     */
    public static Assigned assign(int[] group, long[] before, long next) {
        List<Claim> claims = claims(group, before);
        Map<Integer, Long> given = new HashMap<>();
        Set<Long> taken = new HashSet<>();
        Map<Long, Claim> homes = new TreeMap<>();
        claims.forEach(claim -> homes.putIfAbsent(claim.id(), claim));
        homes.values().forEach(home -> give(home, given, taken));
        claims.forEach(claim -> give(claim, given, taken));
        Set<Long> fresh = new HashSet<>();
        long unused = next;
        long[] ids = new long[group.length];
        for (int record = 0; record < group.length; record++) {
            Long id = given.get(group[record]);
            if (id == null) {
                id = unused++;
                fresh.add(id);
                given.put(group[record], id);
            }
            ids[record] = id;
        }
        Map<Long, Long> retired = new TreeMap<>();
        Set<Long> split = new HashSet<>();
        for (Claim claim : claims) {
            long holder = given.get(claim.group());
            if (holder == claim.id()) {
                continue;
            }
            if (taken.contains(claim.id())) {
                split.add(claim.id());
            } else {
                retired.putIfAbsent(claim.id(), holder);
            }
        }
        return new Assigned(ids, retired, fresh, split);
    }

    private static void give(Claim claim, Map<Integer, Long> given, Set<Long> taken) {
        if (!given.containsKey(claim.group()) && taken.add(claim.id())) {
            given.put(claim.group(), claim.id());
        }
    }

    /** The strongest first. */
    private static List<Claim> claims(int[] group, long[] before) {
        Map<Long, Map<Integer, Integer>> counts = new HashMap<>();
        for (int record = 0; record < group.length; record++) {
            if (before[record] != 0) {
                counts.computeIfAbsent(before[record], id -> new HashMap<>()).merge(group[record], 1, Integer::sum);
            }
        }
        List<Claim> claims = new ArrayList<>();
        counts.forEach((id, groups) -> groups.forEach((one, records) -> claims.add(new Claim(id, one, records))));
        claims.sort(Comparator.comparing(Claim::records)
                .reversed()
                .thenComparing(Claim::id)
                .thenComparing(Claim::group));
        return claims;
    }
}

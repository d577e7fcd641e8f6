package remitto.core.identity.group;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.group.Groups.Reason;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Links;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.MatchRule;
import remitto.core.identity.rule.MatchRules;

/**
 * Follows links from the strongest down, so that what contradicts a rule is cut at its weakest evidence. What comes out does
 * not depend on the order in which records or links came in. Used by one thread.
 */
public final class Grouper {
    private final RecordTable table;
    private final MatchRules rules;
    private final Scorer scorer;
    private final MatchOverrides overrides;
    private final int[] root;
    private final int[] next;
    private final int[] size;
    /** By root: somebody joined records of it, which then need not agree with each other. */
    private final boolean[] pinned;

    private final int email;

    /** @param scorer with the weights the links were found by */
    public Grouper(RecordTable table, MatchRules rules, Scorer scorer, MatchOverrides overrides) {
        this.table = table;
        this.rules = rules;
        this.scorer = scorer;
        this.overrides = overrides;
        this.root = IntStream.range(0, table.size()).toArray();
        this.next = IntStream.range(0, table.size()).toArray();
        this.size = new int[table.size()];
        java.util.Arrays.fill(size, 1);
        this.pinned = new boolean[table.size()];
        this.email = IntStream.range(0, table.attributes().size())
                .filter(at -> table.attributes().get(at).kind() == Attribute.Kind.EMAIL)
                .findFirst()
                .orElse(-1);
    }

    public Groups group(Links links) {
        overrides.together().forEach(this::pin);
        return follow(links, new boolean[links.size()]);
    }

    /**
     * Persons of records that nothing touched stay as they are, those of the others are put together again. A record is touched,
     * too, when a chain of links leads to one that is.
     *
     * @param touched grows by those
     * @param before by record, any number of messages that tells the persons of records that are not touched apart
     */
    public Groups groupAgain(Links links, BitSet touched, long[] before) {
        spread(links, touched);
        Map<Long, Integer> first = new HashMap<>();
        for (int record = 0; record < root.length; record++) {
            if (!touched.get(record)) {
                Integer known = first.putIfAbsent(before[record], record);
                if (known != null) {
                    join(find(known), record);
                }
            }
        }
        overrides.together().stream().filter(pair -> touched.get(pair[0])).forEach(this::pin);
        boolean[] settled = new boolean[links.size()];
        for (int link = 0; link < settled.length; link++) {
            settled[link] = !touched.get(links.one(link));
        }
        return follow(links, settled);
    }

    private void pin(int[] pair) {
        join(find(pair[0]), find(pair[1]));
        pinned[find(pair[0])] = true;
    }

    private void spread(Links links, BitSet touched) {
        int[] chain = IntStream.range(0, root.length).toArray();
        for (int link = 0; link < links.size(); link++) {
            if (links.rule(link) >= 0
                    || links.weight(link) >= rules.thresholds().join()) {
                chain(chain, links.one(link), links.other(link));
            }
        }
        overrides.together().forEach(pair -> {
            chain(chain, pair[0], pair[1]);
            touched.set(pair[0]);
        });
        BitSet reached = new BitSet(root.length);
        touched.stream().forEach(record -> reached.set(end(chain, record)));
        for (int record = 0; record < root.length; record++) {
            if (reached.get(end(chain, record))) {
                touched.set(record);
            }
        }
    }

    private static void chain(int[] chain, int one, int other) {
        int first = end(chain, one);
        int second = end(chain, other);
        chain[Math.max(first, second)] = Math.min(first, second);
    }

    private static int end(int[] chain, int record) {
        int at = record;
        while (chain[at] != at) {
            chain[at] = chain[chain[at]];
            at = chain[at];
        }
        return at;
    }

    private Groups follow(Links links, boolean[] settled) {
        boolean[] used = new boolean[links.size()];
        List<Groups.Refused> refused = new ArrayList<>();
        for (int link : strongestFirst(links)) {
            if (settled[link]) {
                used[link] = find(links.one(link)) == find(links.other(link));
                continue;
            }
            int one = find(links.one(link));
            int other = find(links.other(link));
            if (one == other) {
                used[link] = true;
                continue;
            }
            Optional<Reason> against = against(one, other, links.rule(link) >= 0);
            if (against.isPresent()) {
                refused.add(new Groups.Refused(link, against.get()));
            } else {
                join(one, other);
                used[link] = true;
            }
        }
        int persons = 0;
        int[] group = new int[root.length];
        for (int record = 0; record < root.length; record++) {
            group[record] = find(record);
            persons += group[record] == record ? 1 : 0;
        }
        return new Groups(group, persons, used, refused);
    }

    /** Those a rule joins first, then by weight; what weighs the same by the records' numbers. */
    private int[] strongestFirst(Links links) {
        return IntStream.range(0, links.size())
                .filter(link -> links.rule(link) >= 0
                        || links.weight(link) >= rules.thresholds().join())
                .boxed()
                .sorted((a, b) -> {
                    int rule = Boolean.compare(links.rule(b) >= 0, links.rule(a) >= 0);
                    int weight = rule != 0 ? rule : Double.compare(links.weight(b), links.weight(a));
                    int first = weight != 0 ? weight : Integer.compare(links.one(a), links.one(b));
                    return first != 0 ? first : Integer.compare(links.other(a), links.other(b));
                })
                .mapToInt(Integer::intValue)
                .toArray();
    }

    private Optional<Reason> against(int one, int other, boolean byRule) {
        if (size[one] + size[other] > rules.limits().records()) {
            return Optional.of(Reason.TOO_LARGE);
        }
        if (email >= 0 && emails(one, other) > rules.limits().emails()) {
            return Optional.of(Reason.TOO_MANY_EMAILS);
        }
        boolean trusted = size[one] == 1 && size[other] == 1 || pinned[one] || pinned[other];
        double sum = 0;
        double least = Double.POSITIVE_INFINITY;
        int first = one;
        do {
            int second = other;
            do {
                if (overrides.keepsApart(first, second)) {
                    return Optional.of(Reason.PIN);
                }
                if (isApart(first, second)) {
                    return Optional.of(Reason.NEVER_RULE);
                }
                if (!trusted && !byRule) {
                    double weight = scorer.weigh(first, second);
                    sum += weight;
                    least = Math.min(least, weight);
                }
                second = next[second];
            } while (second != other);
            first = next[first];
        } while (first != one);
        if (least < rules.limits().apart()) {
            return Optional.of(Reason.FAR);
        }
        boolean weak = !trusted
                && !byRule
                && sum / ((double) size[one] * size[other]) < rules.limits().weakest();
        return weak ? Optional.of(Reason.WEAK) : Optional.empty();
    }

    private boolean isApart(int one, int other) {
        for (MatchRule rule : rules.never()) {
            if (rule.holds(table, one, other)) {
                return true;
            }
        }
        return false;
    }

    private int emails(int one, int other) {
        if (size[one] + size[other] <= rules.limits().emails()) {
            return 0;
        }
        Set<Integer> emails = new HashSet<>();
        for (int start : new int[] {one, other}) {
            int at = start;
            do {
                emails.add(table.code(email, at));
                at = next[at];
            } while (at != start);
        }
        emails.remove(0);
        return emails.size();
    }

    private int find(int record) {
        int at = record;
        while (root[at] != at) {
            root[at] = root[root[at]];
            at = root[at];
        }
        return at;
    }

    /** The lower number stays the root; the two rings of members become one. */
    private void join(int one, int other) {
        if (one == other) {
            return;
        }
        int low = Math.min(one, other);
        int high = Math.max(one, other);
        root[high] = low;
        size[low] += size[high];
        pinned[low] |= pinned[high];
        int after = next[low];
        next[low] = next[high];
        next[high] = after;
    }
}

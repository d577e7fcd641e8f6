package remitto.server.run;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import remitto.core.manifest.Verdict;
import remitto.server.manifest.PlannedLines;

/** Gives out the numbers of planned lines in order, none twice, fetched many at a time. Safe to share between threads. */
public final class Stock {
    private static final int AT_ONCE = 10_000;

    private final PlannedLines lines;
    private final long runId;
    private final FirstWave wave;
    /** Lines of calls that were open when the first were given out: what was found out before that is planned again. */
    private Optional<Set<Integer>> before = Optional.empty();

    private final Map<Verdict, ArrayDeque<Integer>> left = new EnumMap<>(Verdict.class);
    private final Map<Verdict, Integer> upTo = new EnumMap<>(Verdict.class);

    public Stock(PlannedLines lines, long runId, FirstWave wave) {
        this.lines = lines;
        this.runId = runId;
        this.wave = wave;
    }

    /** At most {@code wanted} numbers; none when the verdict has no more, or the first wave is full. */
    public synchronized List<Integer> take(Verdict verdict, int wanted) {
        ArrayDeque<Integer> numbers = left.computeIfAbsent(verdict, fresh -> new ArrayDeque<>());
        Set<Integer> underWay = before.orElseGet(() -> lines.underWay(runId));
        before = Optional.of(underWay);
        while (numbers.isEmpty()) {
            List<Integer> page = lines.ofVerdict(runId, verdict, upTo.getOrDefault(verdict, 0), AT_ONCE);
            if (page.isEmpty()) {
                break;
            }
            int last = page.get(page.size() - 1);
            Set<Integer> settled = lines.settled(runId, page.get(0), last);
            page.stream()
                    .filter(line -> !settled.contains(line) && !underWay.contains(line))
                    .forEach(numbers::add);
            upTo.put(verdict, last);
        }
        int granted = wave.grant(Math.min(wanted, numbers.size()));
        List<Integer> taken = new ArrayList<>(granted);
        while (taken.size() < granted) {
            taken.add(numbers.removeFirst());
        }
        wave.gave(taken.size());
        return taken;
    }
}

package remitto.core.guard;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * Limits that stop a run before it does damage.
 *
 * @param removed removals, of the records known before the run
 * @param held held records, of the rows read
 * @param changed changed records, of the records known before the run
 * @param added additions, of the records known before the run; says nothing about a first run
 * @param cleared values emptied, per field, of the records known before the run
 * @param week removals and additions are also counted over seven days, against the same limits
 * @param shrunkPercent how much smaller than last time the dataset may be
 * @param stopOnEmptyDataset stop when no row was read
 * @param stopOnSchemaChange stop when the destination describes the object differently than at the last run
 */
public record Guards(
        Limit removed,
        Limit held,
        Limit changed,
        Limit added,
        Limit cleared,
        boolean week,
        Optional<BigDecimal> shrunkPercent,
        boolean stopOnEmptyDataset,
        boolean stopOnSchemaChange) {

    public static Guards defaults() {
        return new Guards(
                Limit.percent(10),
                Limit.percent(10),
                Limit.none(),
                Limit.percent(50),
                Limit.percent(20),
                false,
                Optional.of(BigDecimal.valueOf(30)),
                true,
                false);
    }

    /** No limit at all. */
    public static Guards none() {
        return new Guards(
                Limit.none(),
                Limit.none(),
                Limit.none(),
                Limit.none(),
                Limit.none(),
                false,
                Optional.empty(),
                false,
                false);
    }

    public Guards removed(Limit limit) {
        return new Guards(
                limit, held, changed, added, cleared, week, shrunkPercent, stopOnEmptyDataset, stopOnSchemaChange);
    }

    public Guards held(Limit limit) {
        return new Guards(
                removed, limit, changed, added, cleared, week, shrunkPercent, stopOnEmptyDataset, stopOnSchemaChange);
    }

    private Map<String, Limit> limits() {
        Map<String, Limit> limits = new LinkedHashMap<>();
        limits.put("removed records", removed);
        limits.put("held records", held);
        limits.put("changed records", changed);
        limits.put("added records", added);
        limits.put("cleared values", cleared);
        return limits;
    }

    /** What is wrong with the limits, a sentence each. */
    public List<String> faults() {
        List<String> faults = new ArrayList<>();
        limits().forEach((name, limit) ->
                limit.fault().ifPresent(fault -> faults.add("The limit of " + name + " " + fault + ".")));
        new Limit(shrunkPercent, Optional.empty())
                .fault()
                .ifPresent(fault -> faults.add("The limit of a shrinking dataset " + fault + "."));
        return faults;
    }

    /**
     * The guards that let pass what others would stop, by their names.
     *
     * @param before those that hold until now
     */
    public List<String> looserThan(Guards before) {
        List<String> looser = new ArrayList<>();
        Map<String, Limit> others = before.limits();
        limits().forEach((name, limit) -> {
            if (limit.isLooserThan(others.get(name))) {
                looser.add(name);
            }
        });
        if (Limit.isMore(shrunkPercent, before.shrunkPercent)) {
            looser.add("a shrinking dataset");
        }
        if (before.week && !week) {
            looser.add("seven days together");
        }
        if (before.stopOnEmptyDataset && !stopOnEmptyDataset) {
            looser.add("an empty dataset");
        }
        if (before.stopOnSchemaChange && !stopOnSchemaChange) {
            looser.add("a changed destination");
        }
        return looser;
    }

    /** Why a run must wait for a person, one sentence per limit that it breaks. */
    public List<String> check(GuardInput run) {
        List<String> stops = new ArrayList<>();
        var counts = run.counts();
        long known = run.knownBefore();
        if (stopOnEmptyDataset && counts.read() == 0) {
            stops.add("The dataset is empty; it held no row at all.");
        }
        shrunk(run).ifPresent(stops::add);
        String ofKnown = "of the " + known + " known records";
        removed.broken(counts.removed(), known).ifPresent(one -> stops.add(one.sentence("Removes", ofKnown)));
        held.broken(counts.held(), counts.read() + counts.leaving())
                .ifPresent(one -> stops.add(one.sentence("Holds", "of the " + counts.read() + " rows read")));
        changed.broken(counts.changed(), known).ifPresent(one -> stops.add(one.sentence("Changes", ofKnown)));
        if (known > 0) {
            added.broken(counts.added(), known)
                    .ifPresent(one -> stops.add(one.sentence("Adds", "to the " + known + " known records")));
        }
        new TreeMap<>(run.cleared()).forEach((field, count) -> cleared.broken(count, known)
                .ifPresent(one -> stops.add(one.sentence("Clears " + field + " in", ofKnown))));
        if (week) {
            overSevenDays(run, stops);
        }
        if (stopOnSchemaChange) {
            run.schemaChanges().forEach(change -> stops.add("The destination changed: " + change + "."));
        }
        return stops;
    }

    private void overSevenDays(GuardInput run, List<String> stops) {
        long known = run.knownBefore();
        String inAll = "in seven days, this run among them";
        if (run.removedInWeek() > 0 && run.counts().removed() > 0) {
            removed.broken(run.counts().removed() + run.removedInWeek(), known)
                    .ifPresent(one -> stops.add(one.sentence("Removes", inAll)));
        }
        if (run.addedInWeek() > 0 && run.counts().added() > 0 && known > run.addedInWeek()) {
            added.broken(run.counts().added() + run.addedInWeek(), known - run.addedInWeek())
                    .ifPresent(one -> stops.add(one.sentence("Adds", inAll)));
        }
    }

    private Optional<String> shrunk(GuardInput run) {
        long read = run.counts().read();
        if (shrunkPercent.isEmpty()
                || run.readBefore().filter(before -> before > read).isEmpty()
                || read == 0) {
            return Optional.empty();
        }
        long before = run.readBefore().get();
        return new Limit(shrunkPercent, Optional.empty())
                .broken(before - read, before)
                .map(one -> one.sentence("The dataset shrank by", "from " + before + " to " + read + " rows"));
    }
}

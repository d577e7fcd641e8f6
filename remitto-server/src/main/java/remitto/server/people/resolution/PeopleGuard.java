package remitto.server.people.resolution;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.server.people.rule.PeopleSettings;

/** Looks whether a run would do more than it may without somebody's approval. */
final class PeopleGuard {
    private PeopleGuard() {}

    /** How much a run may do: what an approver saw. */
    record Allowed(long joined, long split, long gone) {}

    /**
     * Why a run waits, in words, and how much it would do.
     *
     * @param joined persons who would become others, {@code split} who would lose records, {@code gone} records that are no more
     */
    record GuardStop(List<String> reasons, long joined, long split, long gone) {}

    static Optional<GuardStop> check(FreshPeople fresh, PeopleSettings.PeopleGuards guards, Optional<Allowed> allowed) {
        long persons = fresh.personsBefore();
        long joined = fresh.assigned().retired().size();
        long split = fresh.assigned().split().size();
        long gone = fresh.gone().size();
        if (allowed.filter(may -> joined <= may.joined() && split <= may.split() && gone <= may.gone())
                .isPresent()) {
            return Optional.empty();
        }
        List<String> reasons = new ArrayList<>(fresh.read().unexpected());
        if (persons > 0) {
            tooMuch(reasons, fresh, guards);
        }
        return reasons.isEmpty() ? Optional.empty() : Optional.of(new GuardStop(reasons, joined, split, gone));
    }

    private static void tooMuch(List<String> reasons, FreshPeople fresh, PeopleSettings.PeopleGuards guards) {
        long persons = fresh.personsBefore();
        long joined = fresh.assigned().retired().size();
        long split = fresh.assigned().split().size();
        long gone = fresh.gone().size();
        over(reasons, joined, persons, guards.joined(), "of the persons would change identity");
        over(reasons, split, persons, guards.split(), "of the persons would lose records to others");
        over(reasons, gone, fresh.before().size(), guards.gone(), "of the records would be deleted");
        Map<String, Integer> left = new HashMap<>(fresh.sourcesBefore());
        for (int record = 0; record < fresh.table().size(); record++) {
            left.remove(fresh.table().ref(record).source());
        }
        fresh.read().sources().stream()
                .filter(source -> left.containsKey(Long.toString(source.datasetId())))
                .forEach(source -> reasons.add(source.dataset() + " gave no records, instead of "
                        + left.get(Long.toString(source.datasetId()))));
    }

    private static void over(List<String> reasons, long count, long of, double share, String words) {
        if (count > 0 && count > share * of) {
            reasons.add("%,d of %,d %s; %s is allowed"
                    .formatted(count, of, words.replaceFirst("^of the ", ""), percent(share)));
        }
    }

    private static String percent(double share) {
        double percent = share * 100;
        return (percent == Math.rint(percent) ? "%.0f" : "%.1f").formatted(percent) + "%";
    }
}

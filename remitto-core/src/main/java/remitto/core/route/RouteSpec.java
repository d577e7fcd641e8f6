package remitto.core.route;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.timetable.Schedule;

/**
 * Everything a version of a route says, apart from which dataset and object it joins.
 *
 * @param match destination fields by which a record is found, in order; the first is the key field. The value
 *     compared is what the rule of that field gives.
 * @param firstRun absent while nobody decided; such a version cannot be put in service
 * @param after routes that run before this one when both are due
 * @param joined of a route on people; absent for {@link Joined#REVIEW}
 */
public record RouteSpec(
        Mode mode,
        List<String> match,
        List<FieldRule> rules,
        Basis basis,
        Guards guards,
        Schedule schedule,
        Leavers leavers,
        Optional<FirstRun> firstRun,
        Optional<Waves> waves,
        List<Long> after,
        Optional<Joined> joined) {
    /** What happens there to the record of a person whose id was retired, since records were joined into another. */
    public enum Joined {
        /** It is held for somebody who merges the two there. */
        REVIEW,
        /** It leaves, as every record that is no more in the dataset. */
        LEAVES
    }

    public RouteSpec {
        match = List.copyOf(match);
        rules = List.copyOf(rules);
        after = List.copyOf(after);
    }

    /** A route whose leavers stay, with no waves, no parents and nothing decided about its first run. */
    public static RouteSpec of(
            Mode mode, List<String> match, List<FieldRule> rules, Basis basis, Guards guards, Schedule schedule) {
        return new RouteSpec(
                mode,
                match,
                rules,
                basis,
                guards,
                schedule,
                new Leavers.Stay(),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                Optional.empty());
    }

    public RouteSpec rules(List<FieldRule> others) {
        return new RouteSpec(mode, match, others, basis, guards, schedule, leavers, firstRun, waves, after, joined);
    }

    public RouteSpec leavers(Leavers choice) {
        return new RouteSpec(mode, match, rules, basis, guards, schedule, choice, firstRun, waves, after, joined);
    }

    public RouteSpec firstRun(FirstRun.AlreadyThere there, FirstRun.OlderRows older) {
        return new RouteSpec(
                mode,
                match,
                rules,
                basis,
                guards,
                schedule,
                leavers,
                Optional.of(new FirstRun(there, older)),
                waves,
                after,
                joined);
    }

    public RouteSpec guards(Guards choice) {
        return new RouteSpec(mode, match, rules, basis, choice, schedule, leavers, firstRun, waves, after, joined);
    }

    public RouteSpec joined(Joined choice) {
        return new RouteSpec(
                mode, match, rules, basis, guards, schedule, leavers, firstRun, waves, after, Optional.of(choice));
    }

    public RouteSpec waves(Waves choice) {
        return new RouteSpec(
                mode, match, rules, basis, guards, schedule, leavers, firstRun, Optional.of(choice), after, joined);
    }

    /** True when records found there are not to be touched until this route made them. */
    public boolean leavesWhatWasThere() {
        return firstRun.filter(first -> first.alreadyThere() == FirstRun.AlreadyThere.LEAVE)
                .isPresent();
    }

    /** Routes that go before this one: those it names, and those whose records its rules refer to. */
    public Set<Long> parents() {
        Set<Long> parents = new LinkedHashSet<>(after);
        rules.forEach(rule -> {
            if (rule.receives() instanceof Receives.RecordOf reference) {
                parents.add(reference.route());
            } else if (rule.receives() instanceof Receives.RecordsOf references) {
                parents.add(references.route());
            }
        });
        return parents;
    }
}

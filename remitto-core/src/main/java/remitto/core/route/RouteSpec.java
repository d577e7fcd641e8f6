package remitto.core.route;

import java.util.List;
import remitto.core.fieldrule.FieldRule;
import remitto.core.guard.Guards;
import remitto.core.timetable.Schedule;

/**
 * Everything a version of a route says, apart from which dataset and object it joins.
 *
 * @param match destination fields by which a record is found, in order; the first is the key field. The value
 *     compared is what the rule of that field gives.
 */
public record RouteSpec(
        Mode mode, List<String> match, List<FieldRule> rules, Basis basis, Guards guards, Schedule schedule) {
    public RouteSpec {
        match = List.copyOf(match);
        rules = List.copyOf(rules);
    }
}

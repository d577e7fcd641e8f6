package remitto.server.planning;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.manifest.Decision;
import remitto.core.manifest.LeaverJudge;
import remitto.core.manifest.Standing;
import remitto.core.manifest.Verdict;
import remitto.core.route.RouteSpec;
import remitto.server.known.RetiredKeys;
import remitto.server.known.RouteRecords;
import remitto.server.known.Standings;
import remitto.server.manifest.Line;
import remitto.server.route.BoundRoute;

/** Judges records that left the dataset, a chunk at a time. */
@Component
class LeaverChunks {
    private final RouteRecords records;
    private final Standings standings;
    private final List<RetiredKeys> retired;

    LeaverChunks(RouteRecords records, Standings standings, List<RetiredKeys> retired) {
        this.records = records;
        this.standings = standings;
        this.retired = retired;
    }

    /**
     * @param keyless rows of this read that had no key: any of them may be a record that seems to have left
     * @return a line for each record that something happens to
     */
    List<Line> judge(BoundRoute route, List<Integer> ordinals, long keyless) {
        Map<Integer, RouteRecords.Bound> bound = records.bound(route, ordinals);
        bound.values().removeIf(one -> !one.isBound());
        Map<Integer, Standing.There> there = standings.ofBound(route, bound);
        List<Line> lines = new ArrayList<>();
        List<Integer> nothingToDo = new ArrayList<>();
        List<Integer> goneThere = new ArrayList<>();
        Map<String, String> joined = joined(route, bound);
        bound.forEach((ordinal, known) -> {
            if (!there.containsKey(ordinal)) {
                goneThere.add(ordinal);
                return;
            }
            if (joined.containsKey(known.key())) {
                lines.add(
                        Line.held(0, ordinal, known.key(), Cause.of(CauseKind.JOINED), joinedInto(known.key(), joined))
                                .labelled(known.label()));
                return;
            }
            Optional<Decision> decision = LeaverJudge.judge(
                    route.route().spec().leavers(),
                    route.described().description(),
                    there.get(ordinal),
                    known.otherRoute());
            if (decision.filter(one -> one.verdict() != Verdict.UNCHANGED).isEmpty()) {
                nothingToDo.add(ordinal);
            } else if (keyless > 0 && decision.get().verdict() != Verdict.HELD) {
                lines.add(Line.held(0, ordinal, known.key(), Cause.of(CauseKind.LEAVER_UNCLEAR), unclear(keyless))
                        .labelled(known.label()));
            } else {
                lines.add(Line.of(
                        decision.get(),
                        ordinal,
                        known.key(),
                        known.label(),
                        there.get(ordinal).readAt()));
            }
        });
        records.unbind(route, goneThere);
        records.gone(route.routeId(), goneThere);
        records.gone(route.routeId(), nothingToDo);
        return lines;
    }

    /** Keys that became part of another's, unless the route lets them leave. */
    private Map<String, String> joined(BoundRoute route, Map<Integer, RouteRecords.Bound> bound) {
        Map<String, String> joined = new HashMap<>();
        if (route.route().spec().joined().orElse(RouteSpec.Joined.REVIEW) == RouteSpec.Joined.REVIEW) {
            List<String> keys =
                    bound.values().stream().map(RouteRecords.Bound::key).toList();
            retired.forEach(one -> joined.putAll(one.became(route.sourceId(), keys)));
        }
        return joined;
    }

    private static String joinedInto(String key, Map<String, String> joined) {
        return "Its records became part of " + joined.get(key)
                + ", which this route feeds; there it is a second record of one and the same now. Merge the two there,"
                + " or let the route treat it as one that left";
    }

    private static String unclear(long keyless) {
        return "Not in the dataset by its key, but " + keyless + (keyless == 1 ? " row has" : " rows have")
                + " no key and may be this record; nobody leaves until that is mended";
    }
}

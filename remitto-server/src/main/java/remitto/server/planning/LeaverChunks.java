package remitto.server.planning;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.manifest.LeaverFate;
import remitto.core.manifest.MatchResult;
import remitto.core.route.RouteSpec;
import remitto.server.known.MatchResults;
import remitto.server.known.RetiredKeys;
import remitto.server.known.RouteRecords;
import remitto.server.manifest.Line;
import remitto.server.route.BoundRoute;

/** Judges records that left the dataset, a chunk at a time. */
@Component
class LeaverChunks {
    private final RouteRecords records;
    private final MatchResults matchResults;
    private final List<RetiredKeys> retired;

    LeaverChunks(RouteRecords records, MatchResults matchResults, List<RetiredKeys> retired) {
        this.records = records;
        this.matchResults = matchResults;
        this.retired = retired;
    }

    /**
     * @param keyless rows of this read that had no key: any of them may be a record that seems to have left
     * @param unread rows that are held in its files: any of them too
     * @return a line for each record that something happens to
     */
    List<Line> judge(BoundRoute route, List<Integer> ordinals, long keyless, long unread) {
        Map<Integer, RouteRecords.Bound> bound = records.bound(route, ordinals);
        bound.values().removeIf(one -> !one.isBound());
        Map<Integer, MatchResult.Matched> there = matchResults.ofBound(route, bound);
        List<Line> lines = new ArrayList<>();
        List<Integer> nothingToDo = new ArrayList<>();
        List<Integer> goneThere = new ArrayList<>();
        Map<String, String> joined = joined(route, bound);
        bound.forEach((ordinal, known) -> {
            Optional<MatchResult.Matched> here = Optional.ofNullable(there.get(ordinal));
            LeaverFate fate = LeaverFate.of(
                    new LeaverFate.Facts(
                            here, Optional.ofNullable(joined.get(known.key())), known.otherRoute(), keyless, unread),
                    route.route().spec().leavers(),
                    route.described().description());
            if (fate instanceof LeaverFate.GoneThere) {
                goneThere.add(ordinal);
            } else if (fate instanceof LeaverFate.Held held) {
                lines.add(Line.held(0, ordinal, known.key(), held.cause(), held.reason())
                        .labelled(known.label()));
            } else if (fate instanceof LeaverFate.Goes goes) {
                lines.add(Line.of(
                        goes.decision(),
                        ordinal,
                        known.key(),
                        known.label(),
                        here.orElseThrow().readAt()));
            } else {
                nothingToDo.add(ordinal);
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
}

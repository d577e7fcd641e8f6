package remitto.server.known;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.RemoteRecord;
import remitto.core.manifest.FieldPast;
import remitto.core.manifest.MatchResult;
import remitto.core.route.ShapedRecord;
import remitto.core.value.Value;
import remitto.server.destination.LetInOrigins;
import remitto.server.route.BoundRoute;

/** Finds out how shaped records stand in the destination: by their binding, else by the match fields in order. */
@Component
public class MatchResults {
    private final LetInOrigins origins;
    private final RouteRecords records;
    private final OtherWriters others;
    private final Clock clock;

    MatchResults(LetInOrigins origins, RouteRecords records, OtherWriters others, Clock clock) {
        this.origins = origins;
        this.records = records;
        this.others = others;
        this.clock = clock;
    }

    /** A record to look for, with its binding if it has one. */
    public record Wanted(ShapedRecord shaped, Optional<RouteRecords.Bound> bound) {
        boolean isBound() {
            return bound.filter(RouteRecords.Bound::isBound).isPresent();
        }
    }

    /**
     * One match result for each wanted record, in their order.
     *
     * @param taken records there that this run already gave to a source record, by id; added to
     */
    public List<MatchResult> find(BoundRoute route, List<Wanted> wanted, Map<String, String> taken) {
        MatchResult[] matchResults = new MatchResult[wanted.size()];
        List<Integer> bound = new ArrayList<>();
        List<Integer> open = new ArrayList<>();
        for (int i = 0; i < wanted.size(); i++) {
            (wanted.get(i).isBound() ? bound : open).add(i);
        }
        Instant now = clock.instant();
        if (route.reads()) {
            origins.require(route.destinationId());
            findBound(route, wanted, bound, matchResults);
            for (String field : route.route().spec().match()) {
                open = match(route, wanted, open, field, matchResults);
            }
        } else {
            bound.forEach(
                    i -> matchResults[i] = wanted.get(i).bound().orElseThrow().asKnown(now));
        }
        open.forEach(i -> matchResults[i] = new MatchResult.Unmatched(now));
        claim(route, wanted, matchResults, taken);
        return others.added(route, List.of(matchResults));
    }

    private void findBound(BoundRoute route, List<Wanted> wanted, List<Integer> bound, MatchResult[] matchResults) {
        if (bound.isEmpty()) {
            return;
        }
        Instant at = clock.instant();
        Map<String, RemoteRecord> found = byId(
                route,
                bound.stream()
                        .map(i -> wanted.get(i).bound().orElseThrow().remoteId())
                        .toList());
        for (int i : bound) {
            var known = wanted.get(i).bound().orElseThrow();
            RemoteRecord there = found.get(known.remoteId());
            matchResults[i] = there == null ? new MatchResult.Deleted(known.remoteId(), at) : there(there, known, at);
        }
    }

    private static MatchResult.Matched there(RemoteRecord there, RouteRecords.Bound known, Instant at) {
        return new MatchResult.Matched(
                there.id(), "", there.fields(), at, known.known(), known.undone(), past(there, known.past()));
    }

    /** What we know of the fields' past, with what the tool tells of it. */
    private static Map<String, FieldPast> past(RemoteRecord there, Map<String, FieldPast> known) {
        Map<String, FieldPast> past = new HashMap<>(known);
        there.stamps()
                .forEach((field, stamp) -> past.merge(
                        field,
                        new FieldPast(Optional.empty(), Optional.empty(), Optional.of(stamp)),
                        (ours, theirs) -> new FieldPast(ours.writtenAt(), ours.mark(), theirs.stamp())));
        return past;
    }

    /** Records there by the destination's own id; those that are not there are missing. */
    public Map<String, RemoteRecord> byId(BoundRoute route, Collection<String> ids) {
        Map<String, RemoteRecord> found = new HashMap<>();
        if (!ids.isEmpty()) {
            find(
                            route,
                            Destination.ID,
                            ids.stream().map(id -> (Value) new Value.Text(id)).toList())
                    .forEach(one -> found.put(one.id(), one));
        }
        return found;
    }

    /**
     * How bound records stand there now, by ordinal; one that is gone there is missing. Where single records cannot be
     * read, what was acknowledged stands for what is there.
     */
    public Map<Integer, MatchResult.Matched> ofBound(BoundRoute route, Map<Integer, RouteRecords.Bound> bound) {
        Instant at = clock.instant();
        Map<Integer, MatchResult.Matched> matchResult = new HashMap<>();
        if (!route.reads()) {
            bound.forEach((ordinal, known) -> matchResult.put(ordinal, known.asKnown(at)));
            return matchResult;
        }
        Map<String, RemoteRecord> found = byId(
                route, bound.values().stream().map(RouteRecords.Bound::remoteId).toList());
        bound.forEach((ordinal, known) -> Optional.ofNullable(found.get(known.remoteId()))
                .ifPresent(there -> matchResult.put(ordinal, there(there, known, at))));
        return others.added(route, matchResult);
    }

    private List<Integer> match(
            BoundRoute route, List<Wanted> wanted, List<Integer> open, String field, MatchResult[] matchResults) {
        Set<Value> values = new HashSet<>();
        open.forEach(i -> values.add(wanted.get(i).shaped().value(field)));
        values.removeIf(Value::isEmpty);
        if (values.isEmpty()) {
            return open;
        }
        Instant at = clock.instant();
        Map<Value, List<RemoteRecord>> found = new HashMap<>();
        find(route, field, List.copyOf(values)).forEach(one -> found.computeIfAbsent(
                        one.fields().getOrDefault(field, Value.EMPTY), key -> new ArrayList<>())
                .add(one));
        List<Integer> left = new ArrayList<>();
        for (int i : open) {
            Value value = wanted.get(i).shaped().value(field);
            List<RemoteRecord> matches = found.getOrDefault(value, List.of());
            if (value.isEmpty() || matches.isEmpty()) {
                left.add(i);
            } else if (matches.size() > 1) {
                matchResults[i] = new MatchResult.Ambiguous(
                        field,
                        value.display(),
                        matches.stream().map(RemoteRecord::id).toList());
            } else {
                RemoteRecord there = matches.get(0);
                matchResults[i] = new MatchResult.Matched(
                        there.id(), field, there.fields(), at, Map.of(), Map.of(), past(there, Map.of()));
            }
        }
        return left;
    }

    private void claim(BoundRoute route, List<Wanted> wanted, MatchResult[] matchResults, Map<String, String> taken) {
        Set<String> matched = new HashSet<>();
        for (MatchResult matchResult : matchResults) {
            if (matchResult instanceof MatchResult.Matched there
                    && !there.matchedBy().isEmpty()) {
                matched.add(there.remoteId());
            }
        }
        Map<String, String> claims = records.claims(route, matched);
        for (int i = 0; i < matchResults.length; i++) {
            if (matchResults[i] instanceof MatchResult.Matched there
                    && !there.matchedBy().isEmpty()) {
                String key = wanted.get(i).shaped().key();
                String other = Optional.ofNullable(claims.get(there.remoteId()))
                        .orElseGet(() -> Optional.ofNullable(taken.putIfAbsent(there.remoteId(), key))
                                .orElse(key));
                if (!other.equals(key)) {
                    matchResults[i] = new MatchResult.AlreadyBound(there.remoteId(), other);
                }
            }
        }
    }

    private static List<RemoteRecord> find(BoundRoute route, String by, List<Value> values) {
        return route.connection().finding().find(route.described().description(), by, values);
    }
}

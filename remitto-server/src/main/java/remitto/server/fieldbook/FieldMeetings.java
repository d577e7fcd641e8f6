package remitto.server.fieldbook;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Written;
import remitto.core.route.RouteSpec;
import remitto.server.platform.Questions;
import remitto.server.route.FieldOrders;
import remitto.server.route.FieldOwners;
import remitto.server.route.RouteBinder.RouteEnds;
import remitto.server.route.Routes;
import remitto.server.route.RuleSentences;

/** Fields of a route that other routes in service write too: in how many records they meet, and whose value wins. */
@Component
class FieldMeetings {
    private final Routes routes;
    private final RuleSentences sentences;
    private final FieldOwners owners;
    private final FieldOrders orders;
    private final Questions questions;
    private final JdbcClient jdbc;
    /** Counting goes over every record of a route, and is asked for at every change of a rule. */
    private final Cache<Pair, Met> counted = Caffeine.newBuilder()
            .expireAfterWrite(Duration.ofMinutes(1))
            .maximumSize(1_000)
            .build();

    FieldMeetings(
            Routes routes,
            RuleSentences sentences,
            FieldOwners owners,
            FieldOrders orders,
            Questions questions,
            JdbcClient jdbc) {
        this.routes = routes;
        this.sentences = sentences;
        this.owners = owners;
        this.orders = orders;
        this.questions = questions;
        this.jdbc = jdbc;
    }

    /** Whose value a record has that several routes write. */
    enum Wins {
        /** Nobody decided: the run that sent last. */
        LATEST_RUN,
        /** This route owns the field; the rules of the others write nothing. */
        THIS_ROUTE,
        /** Another route owns it; the rule of this route writes nothing. */
        OWNER,
        /** The first route of a settled order that has a value. */
        ORDER
    }

    /**
     * A route in service that writes the field by another rule.
     *
     * @param records that both routes write by now
     * @param written records that it writes by now
     * @param sentence its rule in words
     */
    record MeetingRoute(long routeId, String route, long records, long written, String sentence) {}

    /**
     * A field that this route and others write.
     *
     * @param settled somebody decided for all of them whose value wins
     * @param already the version of this route that is in service writes the field too, so that nothing new begins
     * @param words whose value wins, as a sentence
     */
    record FieldMeeting(
            String field, List<MeetingRoute> others, Wins wins, boolean settled, boolean already, String words) {
        private FieldMeeting already(boolean so) {
            return new FieldMeeting(field, others, wins, settled, so, words);
        }
    }

    /** @param routeId the route that the rules are of; 0 for one that was never saved */
    List<FieldMeeting> of(long routeId, RouteEnds ends, RouteSpec spec) {
        List<Routes.Route> all = routes.all();
        List<Routes.Route> here = all.stream()
                .filter(route -> route.id() != routeId
                        && route.destinationId() == ends.destinationId()
                        && route.object().equals(ends.object())
                        && route.liveSpec().isPresent())
                .toList();
        if (here.isEmpty()) {
            return List.of();
        }
        Map<String, FieldOwners.Owner> owned = owners.of(ends.destinationId(), ends.object());
        Map<String, FieldOrders.FieldOrder> ordered = orders.of(ends.destinationId(), ends.object());
        Set<String> live = all.stream()
                .filter(route -> route.id() == routeId)
                .flatMap(route -> route.liveSpec().stream())
                .flatMap(one -> one.rules().stream())
                .filter(rule -> rule.written() != Written.NEVER)
                .map(FieldRule::field)
                .collect(Collectors.toSet());
        List<FieldMeeting> meetings = new ArrayList<>();
        for (FieldRule rule : spec.rules()) {
            if (rule.written() == Written.NEVER || spec.match().contains(rule.field())) {
                continue;
            }
            List<MeetingRoute> others = here.stream()
                    .filter(route -> writesOtherwise(route, rule))
                    .map(route -> meeting(route, rule.field(), met(routeId, route.id())))
                    .toList();
            if (!others.isEmpty()) {
                meetings.add(meeting(
                                routeId,
                                rule.field(),
                                others,
                                Optional.ofNullable(owned.get(rule.field())),
                                Optional.ofNullable(ordered.get(rule.field())))
                        .already(live.contains(rule.field())));
            }
        }
        return meetings;
    }

    private static boolean writesOtherwise(Routes.Route other, FieldRule mine) {
        RouteSpec spec = other.liveSpec().orElse(other.spec());
        return !spec.match().contains(mine.field())
                && spec.rules().stream()
                        .anyMatch(rule -> rule.field().equals(mine.field())
                                && rule.written() != Written.NEVER
                                && !rule.equals(mine));
    }

    private MeetingRoute meeting(Routes.Route route, String field, Met met) {
        return new MeetingRoute(
                route.id(),
                route.name(),
                met.both(),
                met.written(),
                sentences.of(route.liveSpec().orElse(route.spec())).getOrDefault(field, ""));
    }

    /** Whose value wins, and whether somebody decided so for every route that writes the field. */
    static FieldMeeting meeting(
            long routeId,
            String field,
            List<MeetingRoute> others,
            Optional<FieldOwners.Owner> owner,
            Optional<FieldOrders.FieldOrder> order) {
        if (owner.isPresent()) {
            boolean mine = owner.get().routeId() == routeId;
            return new FieldMeeting(
                    field,
                    others,
                    mine ? Wins.THIS_ROUTE : Wins.OWNER,
                    true,
                    false,
                    mine
                            ? "This route owns the field, so the rules of the others write nothing."
                            : owner.get().route() + " owns the field, so this rule writes nothing.");
        }
        List<Long> places = order.map(FieldOrders.FieldOrder::routeIds).orElse(List.of());
        boolean everyone =
                places.contains(routeId) && others.stream().allMatch(other -> places.contains(other.routeId()));
        if (everyone) {
            return new FieldMeeting(
                    field,
                    others,
                    Wins.ORDER,
                    true,
                    false,
                    "In each record, the first of "
                            + String.join(", then ", order.orElseThrow().routes()) + " that has a value wins.");
        }
        String missing = order.isPresent()
                ? "The order " + String.join(", then ", order.get().routes())
                        + " does not include every route that writes the field, so the run that sends last wins."
                : "Nobody has decided, so the run that sends last wins.";
        return new FieldMeeting(field, others, Wins.LATEST_RUN, false, false, missing);
    }

    private record Pair(long route, long other) {}

    private record Met(long both, long written) {}

    private Met met(long routeId, long other) {
        return counted.get(new Pair(routeId, other), pair -> questions.ask(() -> count(routeId, other)));
    }

    private Met count(long routeId, long other) {
        return jdbc.sql("""
                        select count(*) as written, count(mine.record_id) as both_write
                        from record_state as theirs
                          left join record_state as mine on mine.record_id = theirs.record_id and mine.route_id = ?
                        where theirs.route_id = ? and theirs.record_id is not null
                        """)
                .params(routeId, other)
                .query((row, number) -> new Met(row.getLong("both_write"), row.getLong("written")))
                .single();
    }
}

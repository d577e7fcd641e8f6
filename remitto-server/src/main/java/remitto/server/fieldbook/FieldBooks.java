package remitto.server.fieldbook;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import remitto.core.destination.Field;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Written;
import remitto.core.route.RouteSpec;
import remitto.server.destination.Connections;
import remitto.server.destination.Destinations;
import remitto.server.route.FieldOrders;
import remitto.server.route.FieldOwners;
import remitto.server.route.Routes;
import remitto.server.route.RuleSentences;

/** Puts together the field book of a destination object. */
@Component
class FieldBooks {
    private static final Duration STALE = Duration.ofDays(30);

    private final Destinations destinations;
    private final Connections connections;
    private final Routes routes;
    private final RuleSentences sentences;
    private final FieldOwners owners;
    private final FieldOrders orders;
    private final FieldFacts facts;
    private final Clock clock;

    FieldBooks(
            Destinations destinations,
            Connections connections,
            Routes routes,
            RuleSentences sentences,
            FieldOwners owners,
            FieldOrders orders,
            FieldFacts facts,
            Clock clock) {
        this.destinations = destinations;
        this.connections = connections;
        this.routes = routes;
        this.sentences = sentences;
        this.owners = owners;
        this.orders = orders;
        this.facts = facts;
        this.clock = clock;
    }

    /** A rule with the route it is part of. */
    private record Placed(Routes.Route route, FieldRule rule, boolean inService, String sentence) {}

    FieldBook book(long destinationId, String object) {
        ObjectDescription described =
                connections.describe(destinationId, object).description();
        List<Routes.Route> here = routes.all().stream()
                .filter(route ->
                        route.destinationId() == destinationId && route.object().equals(object))
                .toList();
        Map<String, List<Placed>> rules = new HashMap<>();
        here.forEach(route -> place(route, rules));
        Map<String, Settlement> settled = settled(destinationId, object, described);
        Map<String, FieldFacts.Known> known = facts.known(destinationId, object);
        Map<String, FieldFacts.Written> written =
                facts.written(here.stream().map(Routes.Route::id).toList());
        Optional<FieldFacts.Counted> counted = facts.counted(destinationId, object);
        List<FieldBook.BookField> fields = new ArrayList<>();
        for (Field field : described.fields()) {
            fields.add(field(
                    field,
                    rules.getOrDefault(field.name(), List.of()),
                    settled.getOrDefault(field.name(), Settlement.NONE),
                    known.getOrDefault(field.name(), new FieldFacts.Known(0, 0)),
                    Optional.ofNullable(written.get(field.name())),
                    counted));
        }
        return new FieldBook(
                destinationId,
                destinations.get(destinationId).name(),
                object,
                described.title(),
                counted.map(FieldFacts.Counted::at),
                counted.map(FieldFacts.Counted::there).orElse(0L),
                facts.knownRecords(destinationId, object),
                fields,
                counted.map(FieldBooks::clients).orElse(List.of()));
    }

    /** How it was settled who writes a field. */
    private record Settlement(Optional<FieldOwners.Owner> owner, Optional<FieldOrders.FieldOrder> order) {
        static final Settlement NONE = new Settlement(Optional.empty(), Optional.empty());

        boolean orders(List<Placed> writing) {
            return order.filter(one -> writing.stream().allMatch(placed -> one.routeIds()
                            .contains(placed.route().id())))
                    .isPresent();
        }

        String words() {
            return owner.map(who -> "; " + who.route() + " owns it")
                    .or(() -> order.map(one -> "; in the order " + String.join(", then ", one.routes())))
                    .orElse("");
        }
    }

    private Map<String, Settlement> settled(long destinationId, String object, ObjectDescription described) {
        Map<String, FieldOwners.Owner> owned = owners.of(destinationId, object);
        Map<String, FieldOrders.FieldOrder> ordered = orders.of(destinationId, object);
        Map<String, Settlement> settled = new HashMap<>();
        described
                .fields()
                .forEach(field -> settled.put(
                        field.name(),
                        new Settlement(
                                Optional.ofNullable(owned.get(field.name())),
                                Optional.ofNullable(ordered.get(field.name())))));
        return settled;
    }

    private void place(Routes.Route route, Map<String, List<Placed>> rules) {
        RouteSpec spec = route.liveSpec().orElse(route.spec());
        Map<String, String> words = sentences.of(spec);
        spec.rules().forEach(rule -> rules.computeIfAbsent(rule.field(), name -> new ArrayList<>())
                .add(new Placed(route, rule, route.liveSpec().isPresent(), words.getOrDefault(rule.field(), ""))));
    }

    private FieldBook.BookField field(
            Field field,
            List<Placed> rules,
            Settlement settled,
            FieldFacts.Known known,
            Optional<FieldFacts.Written> written,
            Optional<FieldFacts.Counted> counted) {
        List<FieldBook.BookWriter> others = counted.stream()
                .flatMap(one -> one.writers().stream())
                .filter(client -> !client.us())
                .flatMap(client -> Optional.ofNullable(client.fields().get(field.name())).stream())
                .sorted(Comparator.comparingLong(FieldBook.BookWriter::values).reversed())
                .toList();
        boolean ruled =
                rules.stream().anyMatch(one -> one.inService() && one.rule().written() != Written.NEVER);
        Instant limit = clock.instant().minus(STALE);
        return new FieldBook.BookField(
                field,
                rules.stream()
                        .map(one -> new FieldBook.BookRule(
                                one.route().id(),
                                one.route().name(),
                                one.inService(),
                                settled.owner()
                                        .filter(who ->
                                                who.routeId() != one.route().id())
                                        .isPresent(),
                                one.sentence()))
                        .toList(),
                conflict(field, rules, settled, others),
                settled.owner(),
                settled.order(),
                counted.map(one -> one.fill().getOrDefault(field.name(), 0L)),
                known.filled(),
                known.distinct(),
                written.map(FieldFacts.Written::last),
                written.filter(one -> one.read() > 0)
                        .map(one -> (double) one.times() / one.read())
                        .orElse(0.0),
                ruled && written.filter(one -> one.last().isAfter(limit)).isEmpty(),
                others);
    }

    /** Several routes with different rules, or a route and another tool whose edits it overwrites. */
    private static Optional<FieldBook.BookConflict> conflict(
            Field field, List<Placed> rules, Settlement settled, List<FieldBook.BookWriter> others) {
        List<Placed> writing = rules.stream()
                .filter(one -> one.inService() && one.rule().written() != Written.NEVER)
                .toList();
        long different = writing.stream().map(Placed::rule).distinct().count();
        if (different > 1) {
            String names = writing.stream().map(one -> one.route().name()).collect(Collectors.joining(", "));
            return Optional.of(new FieldBook.BookConflict(
                    FieldBook.ConflictKind.TWO_ROUTES,
                    names + " write " + field.name() + " by different rules" + settled.words(),
                    settled.owner().isPresent() || settled.orders(writing)));
        }
        boolean overwrites = writing.stream()
                .anyMatch(one -> one.rule().written() == Written.ALWAYS
                        && one.rule().onDrift() == remitto.core.fieldrule.OnDrift.OVERWRITE);
        return overwrites && !others.isEmpty()
                ? Optional.of(new FieldBook.BookConflict(
                        FieldBook.ConflictKind.ANOTHER_TOOL,
                        writing.get(0).route().name() + " overwrites what "
                                + others.stream()
                                        .map(FieldBook.BookWriter::client)
                                        .collect(Collectors.joining(", "))
                                + " wrote",
                        false))
                : Optional.empty();
    }

    private static List<FieldBook.BookClient> clients(FieldFacts.Counted counted) {
        return counted.writers().stream()
                .map(client -> new FieldBook.BookClient(
                        client.name(),
                        client.us(),
                        client.fields().values().stream()
                                .mapToLong(FieldBook.BookWriter::values)
                                .sum(),
                        client.fields().keySet().stream().sorted().toList(),
                        client.fields().values().stream()
                                .map(FieldBook.BookWriter::newest)
                                .max(Instant::compareTo)
                                .orElse(counted.at())))
                .sorted(Comparator.comparingLong(FieldBook.BookClient::values).reversed())
                .toList();
    }
}

package remitto.server.fieldbook;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.definition.DefinitionKind;
import remitto.server.destination.Destinations;
import remitto.server.fieldbook.FieldSettling.Place;
import remitto.server.platform.Problem;
import remitto.server.route.FieldOrders;
import remitto.server.route.FieldOwners;
import remitto.server.route.Routes;

/** Who writes fields that several routes could write, as files: one for each object where that is settled. */
@Component
class FieldBookFiles implements DefinitionKind<FieldBookFiles.FieldBookFile> {
    private final JdbcClient jdbc;
    private final Destinations destinations;
    private final FieldOwners owners;
    private final FieldOrders orders;
    private final Routes routes;
    private final FieldSettling settling;

    FieldBookFiles(
            JdbcClient jdbc,
            Destinations destinations,
            FieldOwners owners,
            FieldOrders orders,
            Routes routes,
            FieldSettling settling) {
        this.jdbc = jdbc;
        this.destinations = destinations;
        this.owners = owners;
        this.orders = orders;
        this.routes = routes;
        this.settling = settling;
    }

    /** Fields of an object that are settled. */
    record FieldBookFile(long destination, String object, List<SettledField> fields) {
        FieldBookFile {
            fields = List.copyOf(fields);
        }
    }

    /**
     * One field: one of the two.
     *
     * @param route that owns it; the rules of others are set aside
     * @param routesInOrder each of which leaves alone what an earlier one wrote
     */
    record SettledField(String field, Optional<Long> route, List<Long> routesInOrder) {
        SettledField {
            routesInOrder = List.copyOf(routesInOrder);
        }
    }

    private record Book(long destination, String object) {
        String id() {
            return destination + "/" + object;
        }

        static Book of(String id) {
            int at = id.indexOf('/');
            return new Book(Long.parseLong(id.substring(0, at)), id.substring(at + 1));
        }
    }

    @Override
    public Form<FieldBookFile> form() {
        return new Form<>("field-book", "field-books", FieldBookFile.class, 110, false);
    }

    @Override
    public List<Kept<FieldBookFile>> all() {
        return jdbc
                .sql("""
                        select w.destination_id, w.object from
                          (select destination_id, object, route_id from field_owner
                          union all select destination_id, object, route_id from field_order) w
                        join destination d on d.id = w.destination_id and d.archived_at is null
                        join route r on r.id = w.route_id and r.archived_at is null group by 1, 2 order by 1, 2
                        """)
                .query((row, number) -> new Book(row.getLong("destination_id"), row.getString("object")))
                .list()
                .stream()
                .map(book -> new Kept<>(
                        book.id(),
                        destinations.get(book.destination()).name() + " " + book.object(),
                        new FieldBookFile(book.destination(), book.object(), fields(book)),
                        Optional.<FieldBookFile>empty()))
                .toList();
    }

    private List<SettledField> fields(Book book) {
        var owned = owners.of(book.destination(), book.object());
        var ordered = orders.of(book.destination(), book.object());
        Set<String> names = new TreeSet<>(owned.keySet());
        names.addAll(ordered.keySet());
        Set<Long> there = routes.all().stream().map(Routes.Route::id).collect(Collectors.toSet());
        return names.stream()
                .map(name -> new SettledField(
                        name,
                        Optional.ofNullable(owned.get(name))
                                .map(FieldOwners.Owner::routeId)
                                .filter(there::contains),
                        Optional.ofNullable(ordered.get(name)).stream()
                                .flatMap(order -> order.routeIds().stream())
                                .filter(there::contains)
                                .toList()))
                // What is settled among routes that are archived is nobody's concern any more.
                .filter(one -> one.route().isPresent() || !one.routesInOrder().isEmpty())
                .toList();
    }

    @Override
    public String add(Change<FieldBookFile> change) {
        Book book = new Book(change.content().destination(), change.content().object());
        settle(book, change.content().fields(), change.who());
        return book.id();
    }

    @Override
    public void change(String id, Change<FieldBookFile> change) {
        Book book = Book.of(id);
        if (change.content().destination() != book.destination()
                || !change.content().object().equals(book.object())) {
            throw Problem.conflict("A field book stays that of its object; write another file for another object.");
        }
        settle(book, change.content().fields(), change.who());
    }

    private void settle(Book book, List<SettledField> wanted, String who) {
        List<SettledField> now = fields(book);
        Set<String> names = wanted.stream().map(SettledField::field).collect(Collectors.toSet());
        now.stream()
                .filter(one -> !names.contains(one.field()))
                .forEach(one -> free(new Place(book.destination(), book.object(), one.field()), one, who));
        wanted.stream().filter(one -> !now.contains(one)).forEach(one -> {
            Place place = new Place(book.destination(), book.object(), one.field());
            if (one.route().isPresent() != one.routesInOrder().isEmpty()) {
                throw Problem.invalid(
                        "The field " + one.field() + " has either a route that owns it or routes in order.");
            }
            if (one.route().isPresent()) {
                settling.own(place, one.route(), who);
            } else {
                settling.order(place, one.routesInOrder(), who);
            }
        });
    }

    private void free(Place place, SettledField before, String who) {
        if (before.route().isPresent()) {
            settling.own(place, Optional.empty(), who);
        } else {
            settling.order(place, List.of(), who);
        }
    }

    @Override
    public void remove(String id, String who) {
        Book book = Book.of(id);
        fields(book).forEach(one -> free(new Place(book.destination(), book.object(), one.field()), one, who));
    }
}

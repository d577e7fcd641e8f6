package remitto.server.route;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.destination.Field;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.FieldRule;
import remitto.server.destination.Connections;

/** Copies routes, rules and versions along, to the same object or to another; says how the two objects differ. */
@Component
class RouteCopies {
    private final Routes routes;
    private final Connections connections;
    private final JdbcClient jdbc;

    RouteCopies(Routes routes, Connections connections, JdbcClient jdbc) {
        this.routes = routes;
        this.connections = connections;
        this.jdbc = jdbc;
    }

    /** How a field that rules write is different in another object. */
    record ObjectDifference(String field, String text) {}

    /** What the fields that a route writes are like in another object; nothing for those that are as they were. */
    List<ObjectDifference> differences(Routes.Route route, long destinationId, String object) {
        ObjectDescription here =
                connections.describe(route.destinationId(), route.object()).description();
        ObjectDescription there = connections.describe(destinationId, object).description();
        List<ObjectDifference> differences = new ArrayList<>();
        Set<String> ruled = new HashSet<>();
        for (FieldRule rule : route.spec().rules()) {
            ruled.add(rule.field());
            there.field(rule.field())
                    .ifPresentOrElse(
                            field -> here.field(rule.field()).ifPresent(before -> compare(before, field, differences)),
                            () -> differences.add(new ObjectDifference(
                                    rule.field(),
                                    "does not exist in that destination, so its rule has nothing to write to")));
        }
        there.fields().stream()
                .filter(field -> field.required() && field.mayBeWritten() && !ruled.contains(field.name()))
                .forEach(field -> differences.add(new ObjectDifference(
                        field.name(), "is required in that destination, and no rule says what it receives")));
        return differences;
    }

    private static void compare(Field before, Field after, List<ObjectDifference> differences) {
        String name = before.name();
        if (before.kind() != after.kind()) {
            differences.add(new ObjectDifference(
                    name, "takes " + word(after) + " in that destination, " + word(before) + " in this one"));
        }
        if (!before.maxLength().equals(after.maxLength()) && after.maxLength().isPresent()) {
            differences.add(new ObjectDifference(
                    name, "takes at most " + after.maxLength().getAsInt() + " characters in that destination"));
        }
        if (!before.choices().equals(after.choices())) {
            List<String> gone = new ArrayList<>(before.choices());
            gone.removeAll(after.choices());
            List<String> fresh = new ArrayList<>(after.choices());
            fresh.removeAll(before.choices());
            differences.add(new ObjectDifference(
                    name,
                    "has another choice list in that destination"
                            + (gone.isEmpty() ? "" : ", without " + String.join(", ", gone))
                            + (fresh.isEmpty() ? "" : ", with " + String.join(", ", fresh))));
        }
        if (after.required() && !before.required()) {
            differences.add(new ObjectDifference(name, "is required in that destination"));
        }
        if (before.unique() && !after.unique()) {
            differences.add(new ObjectDifference(name, "is not unique in that destination"));
        }
        if (before.mayBeWritten() && !after.mayBeWritten()) {
            differences.add(new ObjectDifference(name, "may not be written in that destination by this login"));
        }
    }

    private static String word(Field field) {
        return field.kind().name().toLowerCase(java.util.Locale.ROOT);
    }

    /** A route of its own, not in service, with every version of the one it is a copy of. Known state is not copied. */
    @Transactional
    long copy(Routes.Route route, String name, long destinationId, String object, String who) {
        long id = routes.add(name, route.datasetId(), destinationId, object, route.spec(), who);
        jdbc.sql("delete from route_version where route_id = ?").param(id).update();
        jdbc.sql("""
                        insert into route_version (route_id, number, definition, author, saved_at, note)
                        select ?, number, definition, author, saved_at, note from route_version where route_id = ?
                        """).params(id, route.id()).update();
        jdbc.sql("update route set latest_version = ? where id = ?")
                .params(route.latestVersion(), id)
                .update();
        return id;
    }
}

package remitto.server.rehearsal;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Row;
import remitto.core.route.ShapedField;
import remitto.core.route.Trace;
import remitto.core.shaper.Shaped;
import remitto.server.planning.LookUpFinder;
import remitto.server.platform.ActorName;
import remitto.server.platform.Json;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.route.BoundRoute;
import remitto.server.route.ServiceCheck;

/** Records with the values expected of them; a version whose rules give others does not go into service. */
@Component
class PinnedExamples implements ServiceCheck {
    private final JdbcClient jdbc;
    private final Json json;
    private final LookUpFinder lookUps;
    private final Clock clock;

    PinnedExamples(JdbcClient jdbc, Json json, LookUpFinder lookUps, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.lookUps = lookUps;
        this.clock = clock;
    }

    /**
     * A pinned record.
     *
     * @param cells of the row, by column; a column that is not named is empty
     * @param expected values by field, as text; blank for no value
     */
    record Pinned(
            long id,
            String name,
            @Personal Map<String, String> cells,
            @Personal Map<String, String> expected,
            @ActorName String pinnedBy,
            Instant pinnedAt) {}

    /** A field that got another value than expected. @param problem why there is none; blank when there is one */
    record Miss(
            String field,
            @Personal String expected,
            @Personal String got,
            @Personal(Personal.Part.IN_TEXT) String problem) {}

    record ExampleResult(long id, String name, List<Miss> misses) {}

    List<Pinned> of(long routeId) {
        return jdbc.sql("select * from pinned_example where route_id = ? order by id")
                .param(routeId)
                .query((row, at) -> new Pinned(
                        row.getLong("id"),
                        row.getString("name"),
                        texts(row.getString("cells")),
                        texts(row.getString("expected")),
                        row.getString("pinned_by"),
                        Rows.time(row, "pinned_at")))
                .list();
    }

    long pin(long routeId, String name, Map<String, String> cells, Map<String, String> expected, String who) {
        return jdbc.sql("""
                        insert into pinned_example (route_id, name, cells, expected, pinned_by, pinned_at)
                        values (?, ?, ?::jsonb, ?::jsonb, ?, ?) returning id
                        """)
                .params(routeId, name, json.write(cells), json.write(expected), who, Rows.time(clock.instant()))
                .query(Long.class)
                .single();
    }

    void unpin(long routeId, long id) {
        jdbc.sql("delete from pinned_example where route_id = ? and id = ?")
                .params(routeId, id)
                .update();
    }

    List<ExampleResult> check(long routeId, BoundRoute route) {
        List<ExampleResult> checked = new ArrayList<>();
        for (Pinned pinned : of(routeId)) {
            checked.add(new ExampleResult(pinned.id(), pinned.name(), misses(pinned, route)));
        }
        return checked;
    }

    private List<Miss> misses(Pinned pinned, BoundRoute route) {
        Row row = Row.of(route.columns(), pinned.cells());
        Map<String, ShapedField> shaped = new LinkedHashMap<>();
        route.route()
                .shape(pinned.name(), row, lookUps.find(route, List.of(row)), Trace.NONE)
                .fields()
                .forEach(field -> shaped.put(field.field().name(), field));
        List<Miss> misses = new ArrayList<>();
        pinned.expected().forEach((field, expected) -> {
            if (!shaped.containsKey(field)) {
                misses.add(new Miss(field, expected, "", "no rule gives it a value"));
                return;
            }
            Shaped got = shaped.get(field).shaped();
            if (got instanceof Shaped.Unusable unusable) {
                misses.add(new Miss(field, expected, "", unusable.reason()));
            } else if (got instanceof Shaped.Usable usable
                    && !usable.value().display().equals(expected)) {
                misses.add(new Miss(field, expected, usable.value().display(), ""));
            }
        });
        return misses;
    }

    @Override
    public List<Problem.Detail> against(long routeId, BoundRoute route) {
        List<Problem.Detail> details = new ArrayList<>();
        for (ExampleResult one : check(routeId, route)) {
            one.misses()
                    .forEach(miss -> details.add(new Problem.Detail(
                            miss.field(),
                            "Pinned example " + one.name() + " expects \"" + miss.expected() + "\" and gets "
                                    + (miss.problem().isEmpty() ? "\"" + miss.got() + "\"" : "none: " + miss.problem())
                                    + ".")));
        }
        return details;
    }

    private Map<String, String> texts(String text) {
        Map<String, String> texts = new LinkedHashMap<>();
        json.tree(text)
                .properties()
                .forEach(entry -> texts.put(entry.getKey(), entry.getValue().asString("")));
        return texts;
    }
}

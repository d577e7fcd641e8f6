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
class GoldenExamples implements ServiceCheck {
    private final JdbcClient jdbc;
    private final Json json;
    private final LookUpFinder lookUps;
    private final Clock clock;

    GoldenExamples(JdbcClient jdbc, Json json, LookUpFinder lookUps, Clock clock) {
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
    record GoldenExample(
            long id,
            String name,
            @Personal Map<String, String> cells,
            @Personal Map<String, String> expected,
            @ActorName String addedBy,
            Instant addedAt) {}

    /**
     * A field that got another value than expected.
     *
     * @param problem why there is none; blank when there is one
     */
    record ExampleMismatch(
            String field,
            @Personal String expected,
            @Personal String got,
            @Personal(Personal.Part.IN_TEXT) String problem) {}

    /** Whether a golden example has the values it must have. */
    record ExampleResult(long id, String name, List<ExampleMismatch> misses) {}

    List<GoldenExample> of(long routeId) {
        return jdbc.sql("select * from golden_example where route_id = ? order by id")
                .param(routeId)
                .query((row, at) -> new GoldenExample(
                        row.getLong("id"),
                        row.getString("name"),
                        texts(row.getString("cells")),
                        texts(row.getString("expected")),
                        row.getString("added_by"),
                        Rows.time(row, "added_at")))
                .list();
    }

    long pin(long routeId, String name, Map<String, String> cells, Map<String, String> expected, String who) {
        return jdbc.sql("""
                        insert into golden_example (route_id, name, cells, expected, added_by, added_at)
                        values (?, ?, ?::jsonb, ?::jsonb, ?, ?) returning id
                        """)
                .params(routeId, name, json.write(cells), json.write(expected), who, Rows.time(clock.instant()))
                .query(Long.class)
                .single();
    }

    void unpin(long routeId, long id) {
        jdbc.sql("delete from golden_example where route_id = ? and id = ?")
                .params(routeId, id)
                .update();
    }

    List<ExampleResult> check(long routeId, BoundRoute route) {
        List<ExampleResult> checked = new ArrayList<>();
        for (GoldenExample example : of(routeId)) {
            checked.add(new ExampleResult(example.id(), example.name(), misses(example, route)));
        }
        return checked;
    }

    private List<ExampleMismatch> misses(GoldenExample example, BoundRoute route) {
        Row row = Row.of(route.columns(), example.cells());
        Map<String, ShapedField> shaped = new LinkedHashMap<>();
        route.route()
                .shape(example.name(), row, lookUps.find(route, List.of(row)), Trace.NONE)
                .fields()
                .forEach(field -> shaped.put(field.field().name(), field));
        List<ExampleMismatch> misses = new ArrayList<>();
        example.expected().forEach((field, expected) -> {
            if (!shaped.containsKey(field)) {
                misses.add(new ExampleMismatch(field, expected, "", "no rule gives it a value"));
                return;
            }
            Shaped got = shaped.get(field).shaped();
            if (got instanceof Shaped.Unusable unusable) {
                misses.add(new ExampleMismatch(field, expected, "", unusable.reason()));
            } else if (got instanceof Shaped.Usable usable
                    && !usable.value().display().equals(expected)) {
                misses.add(new ExampleMismatch(field, expected, usable.value().display(), ""));
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
                            "Golden example " + one.name() + " expects \"" + miss.expected() + "\" and gets "
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

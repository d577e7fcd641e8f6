package remitto.server.explain;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.RemoteRecord;
import remitto.connect.destination.DestinationProblem;
import remitto.core.dataset.Row;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.route.RouteSpec;
import remitto.core.value.Value;
import remitto.server.destination.Connections;
import remitto.server.manifest.LineFields;
import remitto.server.manifest.Step;
import remitto.server.permission.CurrentUser;
import remitto.server.platform.Json;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.rehearsal.RecordPreview;
import remitto.server.route.RouteBinder;
import remitto.server.route.Routes;
import remitto.server.route.RuleSentences;
import tools.jackson.databind.JsonNode;

/**
 * Looks up why a field there holds what it holds: what is known of the value, the line that wrote it with what it was
 * made of, the rule in the version it was made by, the answer, and beside it what the rules of today would make of the
 * row of today.
 */
@Component
class Explanations {
    private final CurrentUser user;
    private final JdbcClient jdbc;
    private final Json json;
    private final LineFields lineFields;
    private final Connections connections;
    private final Routes routes;
    private final RouteBinder binder;
    private final RuleSentences sentences;
    private final RecordPreview recordPreview;

    Explanations(
            CurrentUser user,
            JdbcClient jdbc,
            Json json,
            Connections connections,
            Routes routes,
            RouteBinder binder,
            RuleSentences sentences,
            RecordPreview recordPreview) {
        this.user = user;
        this.jdbc = jdbc;
        this.json = json;
        this.lineFields = new LineFields(json);
        this.connections = connections;
        this.routes = routes;
        this.binder = binder;
        this.sentences = sentences;
        this.recordPreview = recordPreview;
    }

    /**
     * A field of the record, to choose from.
     *
     * @param known the value that was acknowledged; absent for none
     */
    record ExplainedField(
            String field,
            String title,
            @Personal Optional<String> there,
            @Personal Optional<String> known,
            String writer) {}

    /** What the tool itself tells of the field's last write. */
    record ReportedWrite(String by, boolean us, Instant at) {}

    /**
     * How a line made the value.
     *
     * @param readAt when the run began to read its rows
     * @param thereReadAt when the values there were read
     * @param inputs cells the rules read then; those of sensitive columns are not kept
     * @param steps the rule of that version at work on those cells, and what it found beyond the row then; absent when
     *     that was not kept, as of sensitive columns
     * @param answer what the destination said
     */
    record ValueHistory(
            long runId,
            int line,
            long routeId,
            String route,
            int routeVersion,
            int datasetVersion,
            @Personal(Personal.Part.KEY) String key,
            @Personal String label,
            Instant readAt,
            Optional<Instant> thereReadAt,
            @Personal Map<String, String> inputs,
            String sentence,
            Optional<List<Step>> steps,
            @Personal Optional<String> old,
            @Personal Optional<String> fresh,
            @Personal(Personal.Part.IN_TEXT) String reason,
            @Personal(Personal.Part.IN_TEXT) String answer,
            Optional<Instant> answeredAt) {}

    /**
     * A value that stood in the destination already when a route first met the record, and that its rule gives as well.
     *
     * @param key of the row that the record was matched with
     * @param readAt when the run that found it began to read
     */
    record AdoptedValue(
            long runId,
            long routeId,
            String route,
            @Personal(Personal.Part.KEY) String key,
            Instant readAt) {}

    /** What the rules of today make of the row of today. */
    record ValueNow(String sentence, RecordPreview.PreviewedField field) {}

    /**
     * How a field of a record got its value.
     *
     * @param made how a route wrote it; absent when none did
     * @param adopted by which route it was found as it is; absent unless it was
     * @param problem why it could not be asked what is there now; blank when it could
     */
    record Explanation(
            long destinationId,
            String object,
            String remoteId,
            String field,
            List<ExplainedField> fields,
            @Personal Optional<String> there,
            Optional<ReportedWrite> told,
            Optional<ValueHistory> made,
            Optional<AdoptedValue> adopted,
            Optional<ValueNow> now,
            @Personal(Personal.Part.IN_TEXT) String problem) {}

    private record Known(long id, JsonNode fields, JsonNode writers, long route, long run, int line) {}

    Explanation explain(long destinationId, String object, String remoteId, String wanted) {
        ObjectDescription described =
                connections.describe(destinationId, object).description();
        Optional<Known> known = known(destinationId, object, remoteId);
        String problem = "";
        Optional<RemoteRecord> there = Optional.empty();
        try {
            if (user.mayCallOut()) {
                there =
                        connections
                                .open(destinationId)
                                .finding()
                                .find(described, Destination.ID, List.of(Value.text(remoteId)))
                                .stream()
                                .findFirst();
            }
        } catch (DestinationProblem e) {
            problem = String.valueOf(e.getMessage());
        }
        if (known.isEmpty() && there.isEmpty() && problem.isEmpty()) {
            throw Problem.notFound("record " + remoteId + " of " + object);
        }
        List<ExplainedField> fields = fields(described, known, there);
        String field = wanted.isEmpty()
                ? fields.stream()
                        .filter(one -> one.known().isPresent())
                        .map(ExplainedField::field)
                        .findFirst()
                        .orElse("")
                : wanted;
        Optional<RemoteRecord> found = there;
        Optional<ValueHistory> made =
                known.filter(one -> one.fields().has(field)).flatMap(one -> made(one, field, described));
        Optional<AdoptedValue> adopted = made.isPresent()
                ? Optional.empty()
                : known.filter(one -> one.fields().has(field)).flatMap(one -> adopted(one, field));
        return new Explanation(
                destinationId,
                object,
                remoteId,
                field,
                fields,
                found.map(one -> one.fields().getOrDefault(field, Value.EMPTY).display()),
                found.flatMap(one -> Optional.ofNullable(one.stamps().get(field)))
                        .map(stamp -> new ReportedWrite(stamp.by(), stamp.byUs(), stamp.at())),
                made,
                adopted,
                made.map(one -> now(one.routeId(), one.key(), field))
                        .orElseGet(() -> adopted.flatMap(one -> now(one.routeId(), one.key(), field))),
                problem);
    }

    /** The same for a record of a route, which must have been matched or added there. */
    Explanation ofRecord(long routeId, String key, String wanted) {
        Routes.Route route = routes.get(routeId);
        String remoteId = jdbc.sql("""
                        select d.remote_id from route_record r
                        join record_state s on s.route_id = r.route_id and s.ordinal = r.ordinal
                        join destination_record d on d.id = s.record_id
                        where r.route_id = ? and r.source_key = ?
                        """)
                .params(routeId, key)
                .query(String.class)
                .optional()
                .orElseThrow(() -> Problem.invalid("Record " + key + " of route " + route.name()
                        + " is not known in the destination, so its values cannot be explained. Open it on the"
                        + " route's page to see the result of its rules."));
        return explain(route.destinationId(), route.object(), remoteId, wanted);
    }

    private Optional<Known> known(long destinationId, String object, String remoteId) {
        return jdbc.sql("""
                        select id, fields, writers, route_id, run_id, line from destination_record
                        where destination_id = ? and object = ? and remote_id = ?
                        """)
                .params(destinationId, object, remoteId)
                .query((row, at) -> new Known(
                        row.getLong("id"),
                        json.tree(row.getString("fields")),
                        json.tree(row.getString("writers")),
                        row.getLong("route_id"),
                        row.getLong("run_id"),
                        row.getInt("line")))
                .optional();
    }

    private List<ExplainedField> fields(
            ObjectDescription described, Optional<Known> known, Optional<RemoteRecord> there) {
        Map<Long, String> names = new LinkedHashMap<>();
        routes.all().forEach(route -> names.put(route.id(), route.name()));
        List<ExplainedField> fields = new ArrayList<>();
        described.fields().forEach(field -> {
            Optional<String> ours = known.filter(one -> one.fields().has(field.name()))
                    .map(one -> lineFields
                            .read(one.fields().get(field.name()), field.name(), described)
                            .display());
            Optional<String> live = there.map(
                    one -> one.fields().getOrDefault(field.name(), Value.EMPTY).display());
            String writer = ours.flatMap(text -> known)
                    .map(one -> names.getOrDefault(place(one, field.name()).route(), ""))
                    .orElse("");
            if (ours.isPresent() || live.filter(text -> !text.isEmpty()).isPresent()) {
                fields.add(new ExplainedField(field.name(), field.title(), live, ours, writer));
            }
        });
        return fields;
    }

    private record Place(long route, long run, int line) {}

    private static Place place(Known known, String field) {
        JsonNode writer = known.writers().path(field);
        return writer.isArray()
                ? new Place(
                        writer.get(0).asLong(),
                        writer.get(1).asLong(),
                        writer.get(2).asInt())
                : new Place(known.route(), known.run(), known.line());
    }

    private Optional<ValueHistory> made(Known known, String field, ObjectDescription described) {
        Place place = place(known, field);
        return jdbc.sql("""
                        select m.source_key, m.label, m.fields, m.inputs, m.beyond, m.there_read_at, r.route_id, r.route_version,
                          r.dataset_version, r.started_at, t.name as route, coalesce(o.answer, '') as answer, o.answered_at
                        from manifest_line m join run r on r.id = m.run_id join route t on t.id = r.route_id
                        left join line_outcome o on o.run_id = m.run_id and o.line = m.line
                        where m.run_id = ? and m.line = ?
                        """)
                .params(place.run(), place.line())
                .query((row, at) -> {
                    long routeId = row.getLong("route_id");
                    int version = row.getInt("route_version");
                    String key = row.getString("source_key");
                    int dataset = row.getInt("dataset_version");
                    Map<String, String> inputs = new LinkedHashMap<>();
                    json.tree(row.getString("inputs"))
                            .properties()
                            .forEach(entry ->
                                    inputs.put(entry.getKey(), entry.getValue().asString()));
                    var decided = lineFields.read(row.getString("fields"), LineFields.byName(described)).stream()
                            .filter(one -> one.field().equals(field))
                            .findFirst();
                    RouteSpec spec = routes.version(routeId, version);
                    return new ValueHistory(
                            place.run(),
                            place.line(),
                            routeId,
                            row.getString("route"),
                            version,
                            dataset,
                            key,
                            row.getString("label"),
                            Rows.time(row, "started_at"),
                            Rows.optionalTime(row, "there_read_at"),
                            inputs,
                            sentences.of(spec).getOrDefault(field, ""),
                            beyond(row.getString("beyond"), field)
                                    .or(() -> steps(routeId, dataset, spec, field, key, inputs)),
                            decided.map(one -> one.old())
                                    .filter(old -> !(old instanceof Value.Missing))
                                    .map(Value::display),
                            decided.map(one -> one.fresh().display()),
                            decided.map(one -> one.reason()).orElse(""),
                            row.getString("answer"),
                            Rows.optionalTime(row, "answered_at"));
                })
                .optional();
    }

    private Optional<AdoptedValue> adopted(Known known, String field) {
        Place place = place(known, field);
        return jdbc.sql("""
                        select n.started_at, r.name, e.source_key from run n join route r on r.id = n.route_id
                        join record_state s on s.route_id = r.id and s.record_id = ?
                        join route_record e on e.route_id = s.route_id and e.ordinal = s.ordinal
                        where n.id = ? and r.id = ?
                        """)
                .params(known.id(), place.run(), place.route())
                .query((row, at) -> new AdoptedValue(
                        place.run(),
                        place.route(),
                        row.getString("name"),
                        row.getString("source_key"),
                        Rows.time(row, "started_at")))
                .optional();
    }

    /** The steps of a value that was found beyond the row, as they were then. */
    private Optional<List<Step>> beyond(String kept, String field) {
        JsonNode steps = json.tree(kept).path(field);
        if (!steps.isArray()) {
            return Optional.empty();
        }
        List<Step> all = new ArrayList<>();
        steps.forEach(one -> all.add(json.mapper().treeToValue(one, Step.class)));
        return Optional.of(all);
    }

    /** The rule of that version on the cells of that time. */
    private Optional<List<Step>> steps(
            long routeId, int datasetVersion, RouteSpec spec, String field, String key, Map<String, String> inputs) {
        Optional<FieldRule> rule =
                spec.rules().stream().filter(one -> one.field().equals(field)).findFirst();
        boolean fromRow = rule.map(FieldRule::receives)
                .filter(receives -> receives instanceof Receives.FromColumn
                        || receives instanceof Receives.Fixed
                        || receives instanceof Receives.Computed)
                .isPresent();
        if (inputs.isEmpty() || !fromRow) {
            return Optional.empty();
        }
        Routes.Route route = routes.get(routeId);
        var bound = binder.bind(
                        routeId,
                        route.name(),
                        new RouteBinder.RouteEnds(route.datasetId(), route.destinationId(), route.object()),
                        datasetVersion,
                        spec)
                .bound();
        boolean kept = bound.route().columnsOf(field).stream().allMatch(inputs::containsKey);
        List<Step> steps = new ArrayList<>();
        bound.route()
                .shape(
                        key,
                        Row.of(bound.columns(), inputs),
                        remitto.core.route.LookUps.NONE,
                        (name, step, detail, value) -> {
                            if (name.equals(field)) {
                                steps.add(new Step(step, detail, value.display()));
                            }
                        });
        return kept ? Optional.of(steps) : Optional.empty();
    }

    private Optional<ValueNow> now(long routeId, String key, String field) {
        Routes.Route route = routes.get(routeId);
        RouteSpec spec = route.liveSpec().orElse(route.spec());
        try {
            var followed = recordPreview.follow(
                    binder.bind(
                            route.id(),
                            route.name(),
                            new RouteBinder.RouteEnds(route.datasetId(), route.destinationId(), route.object()),
                            binder.usableDatasetVersion(route.datasetId()),
                            spec),
                    key);
            return followed.fields().stream()
                    .filter(one -> one.field().equals(field))
                    .findFirst()
                    .map(one -> new ValueNow(sentences.of(spec).getOrDefault(field, ""), one));
        } catch (Problem | DestinationProblem e) {
            return Optional.empty();
        }
    }
}

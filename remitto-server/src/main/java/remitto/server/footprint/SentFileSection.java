package remitto.server.footprint;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.route.Basis;
import remitto.core.route.RouteSpec;
import remitto.server.manifest.LineFields;
import remitto.server.manifest.LineView;
import remitto.server.people.person.PersonFileSection;
import remitto.server.people.person.SentTo;
import remitto.server.platform.Json;
import remitto.server.route.Routes;
import remitto.server.route.RuleSentences;

/** What destinations hold of a person by our word, what was sent, by which rule and on what basis. */
@Component
class SentFileSection implements PersonFileSection {
    private static final int MOST = 2_000;

    private final RecordsOfPerson records;
    private final SentTo unlinked;
    private final TransactionTemplate transactions;
    private final JdbcClient jdbc;
    private final Routes routes;
    private final RuleSentences sentences;
    private final LineFields fields;

    SentFileSection(
            RecordsOfPerson records,
            SentTo unlinked,
            TransactionTemplate transactions,
            JdbcClient jdbc,
            Routes routes,
            RuleSentences sentences,
            Json json) {
        this.records = records;
        this.unlinked = unlinked;
        this.transactions = transactions;
        this.jdbc = jdbc;
        this.routes = routes;
        this.sentences = sentences;
        this.fields = new LineFields(json);
    }

    @Override
    public int place() {
        return 4;
    }

    /** @param record in the destination; 0 for none */
    private record Met(long route, int ordinal, long record) {}

    private record Named(long route, int version) {}

    @Override
    public List<FileTable> of(long person) {
        List<Met> met = transactions.execute(status -> {
            records.find(person);
            return jdbc.sql("""
                            select route_id, ordinal, min(record_id) as record_id from (
                              select route_id, ordinal, record_id from gone_record
                              union
                              select o.route_id, o.ordinal, o.record_id from gone_record g
                              join record_state o on o.record_id = g.record_id) as met
                            group by 1, 2 order by 1, 2
                            """)
                    .query((row, number) ->
                            new Met(row.getLong("route_id"), row.getInt("ordinal"), row.getLong("record_id")))
                    .list();
        });
        List<List<String>> there = new ArrayList<>();
        List<List<String>> sent = new ArrayList<>();
        Versions versions = new Versions();
        met.stream()
                .map(Met::record)
                .filter(record -> record > 0)
                .distinct()
                .forEach(record -> there(record, versions, there));
        met.forEach(one -> sent(one, versions, sent));
        return List.of(
                new FileTable(
                        "At destinations",
                        "What a destination acknowledged and is known to hold, field by field.",
                        List.of(
                                "destination",
                                "object",
                                "id in the destination",
                                "field",
                                "value",
                                "rule",
                                "route",
                                "run",
                                "basis"),
                        there),
                new FileTable(
                        "Sent",
                        "Every manifest line that was sent (the latest " + MOST + " of each route).",
                        List.of("at", "route", "run", "what", "outcome", "field", "value", "basis"),
                        sent),
                new FileTable(
                        "Not searched",
                        "Routes whose rows cannot be linked to anybody: they have no key of a person, and sent no address.",
                        List.of("route", "destination", "object"),
                        unlinked.unlinked().stream()
                                .map(one -> List.of(one.route(), one.destination(), one.object()))
                                .toList()));
    }

    private void there(long record, Versions versions, List<List<String>> rows) {
        jdbc.sql("""
                        select t.name as destination, d.object, d.remote_id, f.key as field, f.value #>> '{}' as value,
                          coalesce((d.writers -> f.key ->> 0)::bigint, d.route_id) as writer,
                          coalesce((d.writers -> f.key ->> 1)::bigint, d.run_id) as run, r.route_version
                        from destination_record d
                        join destination t on t.id = d.destination_id
                        cross join lateral jsonb_each(d.fields) f
                        left join run r on r.id = coalesce((d.writers -> f.key ->> 1)::bigint, d.run_id)
                        where d.id = ? order by f.key
                        """).param(record).query(row -> {
            Version version = versions.of(row.getLong("writer"), row.getInt("route_version"));
            rows.add(List.of(
                    row.getString("destination"),
                    row.getString("object"),
                    row.getString("remote_id"),
                    row.getString("field"),
                    text(row, "value"),
                    version.sentences().getOrDefault(row.getString("field"), ""),
                    version.route(),
                    row.getString("run"),
                    version.basis()));
        });
    }

    private void sent(Met met, Versions versions, List<List<String>> rows) {
        jdbc.sql("""
                        select o.answered_at, r.id as run, r.route_version, m.verdict, o.state, m.fields from run r
                        join manifest_line m on m.run_id = r.id and m.ordinal = :ordinal
                        join line_outcome o on o.run_id = m.run_id and o.line = m.line and o.state <> 'CANCELLED'
                        where r.route_id = :route order by o.answered_at desc limit
                        """ + MOST)
                .param("route", met.route())
                .param("ordinal", met.ordinal())
                .query(row -> {
                    Version version = versions.of(met.route(), row.getInt("route_version"));
                    List<String> line = List.of(
                            row.getString("answered_at"),
                            version.route(),
                            row.getString("run"),
                            row.getString("verdict").toLowerCase(java.util.Locale.ROOT),
                            row.getString("state")
                                    .toLowerCase(java.util.Locale.ROOT)
                                    .replace('_', ' '));
                    List<LineView.FieldView> written = fields.view(row.getString("fields")).stream()
                            .filter(field -> field.outcome() == remitto.core.manifest.FieldOutcome.WRITTEN)
                            .toList();
                    if (written.isEmpty()) {
                        rows.add(with(line, "", "", version.basis()));
                    }
                    written.forEach(field ->
                            rows.add(with(line, field.field(), field.fresh().orElse(""), version.basis())));
                });
    }

    private static List<String> with(List<String> line, String... more) {
        List<String> all = new ArrayList<>(line);
        all.addAll(List.of(more));
        return List.copyOf(all);
    }

    private static String text(ResultSet row, String column) throws SQLException {
        String text = row.getString(column);
        return text == null ? "" : text;
    }

    private record Version(String route, String basis, Map<String, String> sentences) {}

    /** Versions of routes that something was sent by, each looked up once. */
    private final class Versions {
        private final Map<Named, Version> known = new HashMap<>();

        Version of(long route, int number) {
            return known.computeIfAbsent(new Named(route, number), key -> read(route, number));
        }

        private Version read(long route, int number) {
            String name = routes.get(route).name();
            if (number == 0) {
                return new Version(name, "", Map.of());
            }
            RouteSpec spec = routes.version(route, number);
            return new Version(name, words(spec.basis()), sentences.of(spec));
        }

        private String words(Basis basis) {
            if (basis instanceof Basis.Consent consent) {
                return "consent to " + consent.purpose();
            }
            return basis instanceof Basis.Stated stated ? stated.reason() : "";
        }
    }
}

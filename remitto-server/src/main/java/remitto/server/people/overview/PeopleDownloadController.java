package remitto.server.people.overview;

import jakarta.servlet.http.HttpServletResponse;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.identity.record.Attribute;
import remitto.server.download.Downloads;
import remitto.server.journal.Journal;
import remitto.server.people.EntityType;
import remitto.server.people.person.SensitiveAttributes;
import remitto.server.people.resolution.KeptValues;
import remitto.server.people.source.PeopleSources;
import remitto.server.platform.Json;

/** People as files. Streamed, so that their number does not matter; every download is journaled. */
@RestController
@RequestMapping("/api/people")
class PeopleDownloadController {
    private static final int ROWS_AT_ONCE = 1_000;
    private static final String LINKS = """
            select r.person_id, d.name, r.key from identity_record r join dataset d on d.id = r.dataset_id
            where r.about = ? order by r.person_id, r.dataset_id, r.key
            """;
    private static final String PERSONS = "select id, label, records, kept from person where about = ? order by id";

    private final JdbcTemplate template;
    private final TransactionTemplate transactions;
    private final PeopleSources sources;
    private final Json json;
    private final Downloads downloads;
    private final SensitiveAttributes.Finder sensitive;

    PeopleDownloadController(
            JdbcTemplate template,
            TransactionTemplate transactions,
            PeopleSources sources,
            Json json,
            Downloads downloads,
            SensitiveAttributes.Finder sensitive) {
        this.template = template;
        this.transactions = transactions;
        this.sources = sources;
        this.json = json;
        this.downloads = downloads;
        this.sensitive = sensitive;
    }

    /**
     * CSV (RFC 4180): which record is whose.
     *
     * @param entityType people or companies
     */
    @GetMapping(path = "/links.csv", produces = "text/csv")
    void linksAsCsv(@RequestParam(defaultValue = "PERSON") EntityType entityType, HttpServletResponse response) {
        downloads.csv(
                download("links.csv"),
                List.of("person", "dataset", "key"),
                response,
                csv -> each(
                        LINKS,
                        entityType,
                        row -> csv.row(row.getLong("person_id"), row.getString("name"), row.getString("key"))));
    }

    /**
     * JSON Lines: one object a record.
     *
     * @param entityType people or companies
     */
    @GetMapping(path = "/links.jsonl", produces = "application/jsonl")
    void linksAsJsonLines(@RequestParam(defaultValue = "PERSON") EntityType entityType, HttpServletResponse response) {
        downloads.jsonLines(
                download("links.jsonl"),
                response,
                lines -> each(LINKS, entityType, row -> {
                    Map<String, Object> line = new LinkedHashMap<>();
                    line.put("person", row.getLong("person_id"));
                    line.put("dataset", row.getString("name"));
                    line.put("key", row.getString("key"));
                    lines.accept(line);
                }));
    }

    /**
     * CSV (RFC 4180): one row a person, one column an attribute; sensitive values as the user may see them.
     *
     * @param entityType people or companies
     */
    @GetMapping(path = "/people.csv", produces = "text/csv")
    void peopleAsCsv(@RequestParam(defaultValue = "PERSON") EntityType entityType, HttpServletResponse response) {
        List<String> attributes =
                sources.attributes(entityType).stream().map(Attribute::name).toList();
        List<String> header = new ArrayList<>(List.of("person", "records"));
        header.addAll(attributes);
        SensitiveAttributes sensitive = this.sensitive.of(entityType);
        downloads.csv(
                download("people.csv"),
                header,
                response,
                csv -> each(PERSONS, entityType, row -> {
                    Map<String, String> kept = kept(row);
                    List<Object> cells = new ArrayList<>(List.of(row.getLong("id"), row.getInt("records")));
                    attributes.forEach(
                            attribute -> cells.add(sensitive.shown(attribute, kept.getOrDefault(attribute, ""))));
                    csv.row(cells);
                }));
    }

    /**
     * JSON Lines: one object a person, with the kept values and why each is kept.
     *
     * @param entityType people or companies
     */
    @GetMapping(path = "/people.jsonl", produces = "application/jsonl")
    void peopleAsJsonLines(@RequestParam(defaultValue = "PERSON") EntityType entityType, HttpServletResponse response) {
        SensitiveAttributes sensitive = this.sensitive.of(entityType);
        downloads.jsonLines(
                download("people.jsonl"),
                response,
                lines -> each(PERSONS, entityType, row -> {
                    Map<String, Object> line = new LinkedHashMap<>();
                    line.put("person", row.getLong("id"));
                    line.put("records", row.getInt("records"));
                    line.put(
                            "kept",
                            sensitive.kept(List.of(json.read(row.getString("kept"), KeptValues.KeptValue[].class))));
                    lines.accept(line);
                }));
    }

    private static Downloads.Download download(String name) {
        return new Downloads.Download(name, "downloaded people", new Journal.Subject("people", 0, "People"));
    }

    private Map<String, String> kept(ResultSet row) throws SQLException {
        Map<String, String> kept = new HashMap<>();
        for (KeptValues.KeptValue one : json.read(row.getString("kept"), KeptValues.KeptValue[].class)) {
            kept.put(one.attribute(), one.value());
        }
        return kept;
    }

    private void each(String query, EntityType entityType, RowCallbackHandler sink) {
        transactions.executeWithoutResult(status -> template.query(
                connection -> {
                    var statement = connection.prepareStatement(query);
                    statement.setFetchSize(ROWS_AT_ONCE);
                    statement.setString(1, entityType.name());
                    return statement;
                },
                sink));
    }
}

package remitto.server.people;

import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.identity.Attribute;
import remitto.server.journal.Journal;
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
    private final Journal journal;

    PeopleDownloadController(
            JdbcTemplate template,
            TransactionTemplate transactions,
            PeopleSources sources,
            Json json,
            Journal journal) {
        this.template = template;
        this.transactions = transactions;
        this.sources = sources;
        this.json = json;
        this.journal = journal;
    }

    /** CSV (RFC 4180): which record is whose. */
    @GetMapping(path = "/links.csv", produces = "text/csv")
    void linksAsCsv(@RequestParam(defaultValue = "PERSON") About about, Principal who, HttpServletResponse response)
            throws IOException {
        Writer out = open(who, response, "text/csv;charset=utf-8", "links.csv");
        try (CSVPrinter csv = new CSVPrinter(
                out,
                CSVFormat.RFC4180
                        .builder()
                        .setHeader("person", "dataset", "key")
                        .get())) {
            each(
                    LINKS,
                    about,
                    row -> print(csv, List.of(row.getLong("person_id"), row.getString("name"), row.getString("key"))));
        }
    }

    /** JSON Lines: one object a record. */
    @GetMapping(path = "/links.jsonl", produces = "application/jsonl")
    void linksAsJsonLines(
            @RequestParam(defaultValue = "PERSON") About about, Principal who, HttpServletResponse response)
            throws IOException {
        try (Writer out = open(who, response, "application/jsonl", "links.jsonl")) {
            each(LINKS, about, row -> {
                Map<String, Object> line = new LinkedHashMap<>();
                line.put("person", row.getLong("person_id"));
                line.put("dataset", row.getString("name"));
                line.put("key", row.getString("key"));
                write(out, line);
            });
        }
    }

    /** CSV (RFC 4180): one row a person, one column an attribute. */
    @GetMapping(path = "/people.csv", produces = "text/csv")
    void peopleAsCsv(@RequestParam(defaultValue = "PERSON") About about, Principal who, HttpServletResponse response)
            throws IOException {
        List<String> attributes =
                sources.attributes(about).stream().map(Attribute::name).toList();
        List<String> header = new ArrayList<>(List.of("person", "records"));
        header.addAll(attributes);
        Writer out = open(who, response, "text/csv;charset=utf-8", "people.csv");
        try (CSVPrinter csv = new CSVPrinter(
                out,
                CSVFormat.RFC4180
                        .builder()
                        .setHeader(header.toArray(String[]::new))
                        .get())) {
            each(PERSONS, about, row -> {
                Map<String, String> kept = kept(row);
                List<Object> cells = new ArrayList<>(List.of(row.getLong("id"), row.getInt("records")));
                attributes.forEach(attribute -> cells.add(kept.getOrDefault(attribute, "")));
                print(csv, cells);
            });
        }
    }

    /** JSON Lines: one object a person, with the kept values and why each is kept. */
    @GetMapping(path = "/people.jsonl", produces = "application/jsonl")
    void peopleAsJsonLines(
            @RequestParam(defaultValue = "PERSON") About about, Principal who, HttpServletResponse response)
            throws IOException {
        try (Writer out = open(who, response, "application/jsonl", "people.jsonl")) {
            each(PERSONS, about, row -> {
                Map<String, Object> line = new LinkedHashMap<>();
                line.put("person", row.getLong("id"));
                line.put("records", row.getInt("records"));
                line.put("kept", json.tree(row.getString("kept")));
                write(out, line);
            });
        }
    }

    private Map<String, String> kept(ResultSet row) throws SQLException {
        Map<String, String> kept = new HashMap<>();
        for (KeptValues.KeptValue one : json.read(row.getString("kept"), KeptValues.KeptValue[].class)) {
            kept.put(one.attribute(), one.value());
        }
        return kept;
    }

    private Writer open(Principal who, HttpServletResponse response, String type, String name) throws IOException {
        journal.write(who.getName(), "downloaded people", new Journal.Subject("people", 0, "People"), name);
        response.setContentType(type);
        response.setHeader("Content-Disposition", "attachment; filename=\"" + name + "\"");
        return new BufferedWriter(new OutputStreamWriter(response.getOutputStream(), StandardCharsets.UTF_8));
    }

    private void each(String query, About about, RowCallbackHandler sink) {
        transactions.executeWithoutResult(status -> template.query(
                connection -> {
                    var statement = connection.prepareStatement(query);
                    statement.setFetchSize(ROWS_AT_ONCE);
                    statement.setString(1, about.name());
                    return statement;
                },
                sink));
    }

    private static void print(CSVPrinter csv, List<?> cells) {
        try {
            csv.printRecord(cells);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private void write(Writer out, Map<String, Object> line) {
        try {
            out.write(json.write(line) + "\n");
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

package remitto.server.crosswalk;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.CSVRecord;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.shaper.CrosswalkTable;
import remitto.server.platform.Problem;
import remitto.server.platform.VersionRequest;

@RestController
@RequestMapping("/api/crosswalks")
class CrosswalkController {
    private static final int MOST = 100_000;

    private final Crosswalks crosswalks;
    private final UnmappedWords unmapped;
    private final CrosswalkKeeping keeping;

    CrosswalkController(Crosswalks crosswalks, UnmappedWords unmapped, CrosswalkKeeping keeping) {
        this.crosswalks = crosswalks;
        this.unmapped = unmapped;
        this.keeping = keeping;
    }

    /** A crosswalk to be created. */
    record NewCrosswalk(String name, String description, List<CrosswalkTable.Pair> entries) {
        NewCrosswalk {
            entries = List.copyOf(entries);
        }
    }

    /** A version of a crosswalk to be saved. */
    record CrosswalkDraft(
            String name, String description, int basedOn, String note, List<CrosswalkTable.Pair> entries) {
        CrosswalkDraft {
            entries = List.copyOf(entries);
        }
    }

    /** The text of a CSV file. */
    record CsvText(String text) {}

    /** All crosswalks with the number of their entries. */
    @GetMapping
    List<Crosswalks.Crosswalk> crosswalks() {
        return crosswalks.all();
    }

    /** A crosswalk with its latest entries. */
    @GetMapping("/{id}")
    Crosswalks.Crosswalk crosswalk(@PathVariable long id) {
        return crosswalks.get(id);
    }

    /** The versions of a crosswalk, the newest first. */
    @GetMapping("/{id}/versions")
    List<Crosswalks.CrosswalkVersion> crosswalkVersions(@PathVariable long id) {
        return crosswalks.versions(id);
    }

    /** The entries of a version of a crosswalk. */
    @GetMapping("/{id}/versions/{number}")
    List<CrosswalkTable.Pair> crosswalkVersion(@PathVariable long id, @PathVariable int number) {
        return crosswalks.version(id, number);
    }

    /** Creates a crosswalk with a first version, which is not in service. */
    @PostMapping
    Crosswalks.Crosswalk addCrosswalk(@RequestBody NewCrosswalk wanted, Principal who) {
        long id = keeping.add(
                new CrosswalkKeeping.Wanted(wanted.name(), wanted.description(), wanted.entries()), who.getName());
        return crosswalks.get(id);
    }

    /** Saves a version of a crosswalk. 409 when somebody saved another since the one it is based on. */
    @PostMapping("/{id}/versions")
    Crosswalks.Crosswalk saveCrosswalk(@PathVariable long id, @RequestBody CrosswalkDraft draft, Principal who) {
        keeping.save(
                id,
                draft.basedOn(),
                new CrosswalkKeeping.Wanted(draft.name(), draft.description(), draft.entries()),
                who.getName(),
                draft.note());
        return crosswalks.get(id);
    }

    /** Puts a version of a crosswalk in service. Records that it concerns are evaluated again in the next run. */
    @PostMapping("/{id}/in-service")
    Crosswalks.Crosswalk putCrosswalkInService(
            @PathVariable long id, @RequestBody VersionRequest wanted, Principal who) {
        keeping.putInService(id, wanted.version(), who.getName());
        return crosswalks.get(id);
    }

    /**
     * Words that rows hold and the table does not know, with how many rows hold them; the most frequent first.
     *
     * @param datasetId of the dataset
     * @param column whose values are looked at
     */
    @GetMapping("/{id}/unmapped")
    List<UnmappedWords.Unmapped> unmappedWords(
            @PathVariable long id, @RequestParam long datasetId, @RequestParam String column) {
        return unmapped.find(crosswalks.get(id).entries(), datasetId, column);
    }

    /** The latest version as CSV (RFC 4180), the words under {@code from} and {@code to}. */
    @GetMapping(path = "/{id}/crosswalk.csv", produces = "text/csv")
    void crosswalkCsv(@PathVariable long id, HttpServletResponse response) throws IOException {
        List<CrosswalkTable.Pair> entries = crosswalks.get(id).entries();
        response.setContentType("text/csv;charset=utf-8");
        response.setHeader("Content-Disposition", "attachment; filename=\"crosswalk-" + id + ".csv\"");
        try (CSVPrinter csv = new CSVPrinter(
                response.getWriter(),
                CSVFormat.RFC4180.builder().setHeader("from", "to").get())) {
            for (CrosswalkTable.Pair entry : entries) {
                csv.printRecord(entry.from(), entry.to());
            }
        }
    }

    /** Reads a table out of CSV (RFC 4180) of two columns, with or without the header {@code from,to}; saves nothing. */
    @PostMapping("/read-csv")
    List<CrosswalkTable.Pair> readCrosswalkCsv(@RequestBody CsvText wanted) {
        List<CrosswalkTable.Pair> entries = new ArrayList<>();
        try (CSVParser csv = CSVFormat.RFC4180.parse(new StringReader(wanted.text()))) {
            for (CSVRecord row : csv) {
                if (row.size() != 2) {
                    throw Problem.invalid("Row " + row.getRecordNumber() + " has " + row.size()
                            + (row.size() == 1 ? " column" : " columns") + "; a crosswalk has two.");
                }
                boolean header = row.getRecordNumber() == 1
                        && row.get(0).equals("from")
                        && row.get(1).equals("to");
                if (!header) {
                    entries.add(new CrosswalkTable.Pair(row.get(0), row.get(1)));
                }
                if (entries.size() > MOST) {
                    throw Problem.invalid(
                            "A crosswalk takes at most " + MOST + " rows; look such tables up as a dataset.");
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (UncheckedIOException e) {
            throw Problem.invalid("This is not CSV (RFC 4180): " + e.getMessage());
        }
        return entries;
    }
}

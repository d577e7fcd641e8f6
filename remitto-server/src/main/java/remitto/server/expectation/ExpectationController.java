package remitto.server.expectation;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.columnprofile.ColumnProfile;
import remitto.core.columnprofile.CommonValue;
import remitto.core.columnprofile.HistogramBin;
import remitto.core.columnprofile.ReadProfile;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.expectation.Expectation;
import remitto.core.expectation.ExpectationProposal;
import remitto.core.expectation.Finding;
import remitto.core.expectation.Proposals;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;

/** What is expected of a dataset, whether its last read met it, and what its columns hold. */
@RestController
@RequestMapping("/api/datasets/{id}")
class ExpectationController {
    private static final int SHOWN_READS = 30;
    private static final int PROPOSED_FROM = 14;

    private final Datasets datasets;
    private final DatasetReads reads;
    private final BrokenExpectations broken;
    private final CheckTable checks;
    private final UnexpectedRows rows;

    ExpectationController(
            Datasets datasets, DatasetReads reads, BrokenExpectations broken, CheckTable checks, UnexpectedRows rows) {
        this.datasets = datasets;
        this.reads = reads;
        this.broken = broken;
        this.checks = checks;
        this.rows = rows;
    }

    /**
     * An expectation of the version in service, and whether it is met.
     *
     * @param sentence what is expected, in words
     * @param met whether the last read met it; absent when no read has checked it yet
     * @param rows that did not meet it
     * @param detail what was found, in a sentence; blank if it was met
     * @param brokenSince when it was first not met; absent if it is met
     * @param timesMet of the last reads that checked it, how many met it
     * @param timesChecked how many reads checked it, of the last 30
     */
    record ExpectationState(
            Expectation expectation,
            String sentence,
            Optional<Boolean> met,
            long rows,
            String detail,
            Optional<Instant> brokenSince,
            int timesMet,
            int timesChecked) {}

    /**
     * What is expected of a dataset.
     *
     * @param lastRead when it was last read from end to end; absent before the first time
     * @param checking whether a check was asked for and has not ended
     * @param problem why the last check failed; blank if it went well
     */
    record ExpectationsOfDataset(
            List<ExpectationState> expectations, Optional<Instant> lastRead, boolean checking, String problem) {}

    /** What is expected of the version in service, and whether the last read met it. */
    @GetMapping("/expectations")
    ExpectationsOfDataset expectations(@PathVariable long id) {
        Datasets.Dataset dataset = datasets.get(id);
        Map<String, BrokenExpectations.BrokenExpectation> now = broken.of(id).stream()
                .collect(Collectors.toMap(BrokenExpectations.BrokenExpectation::expectation, Function.identity()));
        Map<String, List<Finding>> found = new HashMap<>();
        reads.last(id, SHOWN_READS).forEach(read -> read.findings()
                .forEach(one -> found.computeIfAbsent(one.expectation().sentence(), fresh -> new ArrayList<>())
                        .add(one)));
        CheckTable.CheckState state = checks.of(id);
        return new ExpectationsOfDataset(
                live(dataset).expectations().stream()
                        .map(one -> state(
                                one,
                                Optional.ofNullable(now.get(one.sentence())),
                                found.getOrDefault(one.sentence(), List.of())))
                        .toList(),
                reads.lastAt(id),
                state.checking(),
                state.problem());
    }

    private static ExpectationState state(
            Expectation expectation, Optional<BrokenExpectations.BrokenExpectation> broken, List<Finding> found) {
        return new ExpectationState(
                expectation,
                expectation.sentence(),
                broken.isPresent() ? Optional.of(false) : found.isEmpty() ? Optional.empty() : Optional.of(true),
                broken.map(BrokenExpectations.BrokenExpectation::rows).orElse(0L),
                broken.map(BrokenExpectations.BrokenExpectation::detail).orElse(""),
                broken.map(BrokenExpectations.BrokenExpectation::since),
                (int) found.stream().filter(Finding::met).count(),
                found.size());
    }

    private DatasetDefinition live(Datasets.Dataset dataset) {
        return dataset.liveVersion()
                .map(version -> datasets.version(dataset.id(), version))
                .orElse(dataset.definition());
    }

    /** Asks for the dataset to be read and checked. It is read in the background; the answer says that it is being checked. */
    @PostMapping("/check")
    ExpectationsOfDataset checkDataset(@PathVariable long id) {
        if (datasets.get(id).liveVersion().isEmpty()) {
            throw Problem.conflict("Put a version of the dataset in service first. That version is checked.");
        }
        checks.ask(id);
        return expectations(id);
    }

    /** What could be expected by what held in each of the last reads. */
    @GetMapping("/expectations/proposals")
    List<ExpectationProposal> proposedExpectations(@PathVariable long id) {
        DatasetDefinition definition = datasets.get(id).definition();
        List<ReadProfile> profiles = reads.lastProfiled(id, PROPOSED_FROM).stream()
                .flatMap(one -> one.profile().stream())
                .toList();
        return Proposals.of(definition.columns(), profiles, definition.expectations());
    }

    /** The first rows that do not meet an expectation, which need not be saved. */
    @PostMapping("/expectations/rows")
    UnexpectedRows.RowsFound unexpectedRows(@PathVariable long id, @RequestBody Expectation expectation) {
        return rows.of(datasets.get(id), expectation);
    }

    /**
     * A read of a dataset from end to end.
     *
     * @param broken expectations that it did not meet
     */
    record DatasetReadNote(Instant at, int version, ReadFor readFor, long rows, long broken) {}

    /** A value of a column and how many rows hold it. */
    record CommonColumnValue(@Personal String text, long rows) {}

    /**
     * What a column held at the last read, and before.
     *
     * @param empty rows whose cell is empty or blank
     * @param distinct different values, empty cells aside
     * @param distinctExact whether they were counted; otherwise it is an estimate with a standard error of 1.2 %, made where there are more than 10,000
     * @param unreadable cells that could not be read as the type of the column
     * @param least the least number, date or time; absent for other types, and where values are not kept
     * @param greatest as {@code least}
     * @param shortest characters of the shortest text; absent for other types
     * @param longest characters of the longest text
     * @param commonest values that ten rows or more hold, the most frequent first
     * @param commonestExact whether their rows were counted; otherwise they are estimated from a sample
     * @param histogram how numbers, dates and times are spread
     * @param valuesKept whether values are kept; those of keys, identifiers and sensitive columns are not
     * @param emptyShares share of rows whose cell was empty, 0 to 1, in each of the reads, in their order; absent where the column was not there
     */
    record ColumnOverReads(
            String name,
            ColumnType type,
            long empty,
            long distinct,
            boolean distinctExact,
            long unreadable,
            @Personal Optional<String> least,
            @Personal Optional<String> greatest,
            Optional<Integer> shortest,
            Optional<Integer> longest,
            List<CommonColumnValue> commonest,
            boolean commonestExact,
            List<HistogramBin> histogram,
            boolean valuesKept,
            List<Optional<Double>> emptyShares) {}

    /**
     * What the columns of a dataset hold.
     *
     * @param reads the last ones in which columns were profiled, at most 30, the oldest first; that is done once an hour
     * @param columns at the last of them
     */
    record ColumnProfilesOfDataset(List<DatasetReadNote> reads, List<ColumnOverReads> columns) {}

    /** What the columns of a dataset held in its last reads. Nothing while it was never read from end to end. */
    @GetMapping("/column-profiles")
    ColumnProfilesOfDataset columnProfiles(@PathVariable long id) {
        Set<String> unkept = datasets.get(id).definition().columns().stream()
                .filter(column -> column.role() == ColumnRole.SENSITIVE
                        || column.role() == ColumnRole.KEY
                        || column.role() == ColumnRole.IDENTIFIER)
                .map(Column::name)
                .collect(Collectors.toSet());
        List<DatasetReads.KeptRead> kept = new ArrayList<>(reads.lastProfiled(id, SHOWN_READS));
        Collections.reverse(kept);
        List<DatasetReadNote> notes = kept.stream()
                .map(one -> new DatasetReadNote(
                        one.at(),
                        one.version(),
                        one.reader(),
                        one.rows(),
                        one.findings().stream().filter(found -> !found.met()).count()))
                .toList();
        return new ColumnProfilesOfDataset(
                notes,
                kept.isEmpty()
                        ? List.of()
                        : kept.get(kept.size() - 1).profile().orElseThrow().columns().stream()
                                .map(one -> overReads(one, kept, !unkept.contains(one.name())))
                                .toList());
    }

    /** Values that were kept before a column came to be sensitive are not shown any more. */
    private static ColumnOverReads overReads(ColumnProfile one, List<DatasetReads.KeptRead> kept, boolean values) {
        return new ColumnOverReads(
                one.name(),
                one.type(),
                one.empty(),
                one.distinct(),
                one.distinctExact(),
                one.unreadable(),
                one.least().filter(text -> values),
                one.greatest().filter(text -> values),
                one.shortest(),
                one.longest(),
                values
                        ? one.commonest().stream()
                                .map(ExpectationController::common)
                                .toList()
                        : List.of(),
                one.commonestExact(),
                values ? one.histogram() : List.of(),
                values,
                kept.stream()
                        .map(read -> read.profile()
                                .flatMap(profile -> profile.column(one.name()))
                                .map(column -> read.rows() == 0 ? 0 : (double) column.empty() / read.rows()))
                        .toList());
    }

    private static CommonColumnValue common(CommonValue value) {
        return new CommonColumnValue(value.text(), value.rows());
    }
}

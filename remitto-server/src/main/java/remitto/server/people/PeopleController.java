package remitto.server.people;

import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.dataset.Datasets;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

/** People: who they are, why, and what somebody corrected. */
@RestController
@RequestMapping("/api/people")
class PeopleController {
    private final People people;
    private final PeopleSources sources;
    private final PeopleRuns runs;
    private final Corrections corrections;
    private final PeopleQuality quality;
    private final Datasets datasets;
    private final Journal journal;

    PeopleController(
            People people,
            PeopleSources sources,
            PeopleRuns runs,
            Corrections corrections,
            PeopleQuality quality,
            Datasets datasets,
            Journal journal) {
        this.people = people;
        this.sources = sources;
        this.runs = runs;
        this.corrections = corrections;
        this.quality = quality;
        this.datasets = datasets;
        this.journal = journal;
    }

    /** @param latest run, @param good the latest that went well, whose persons these are */
    record PeopleOverview(
            List<PeopleSources.PeopleSource> sources,
            Optional<PeopleRuns.PeopleRun> latest,
            Optional<PeopleRuns.PeopleRun> good) {}

    record TiedWish(List<PeopleSources.TiedColumn> columns, String country, String countryColumn) {}

    record PeopleRunStarted(long runId) {}

    /** @param text CSV with the columns dataset, key and person */
    record LabelledText(String text) {}

    record CorrectionWish(
            Corrections.PersonRecordRef one, Corrections.PersonRecordRef other, boolean together, String reason) {}

    @GetMapping
    List<People.PersonRow> people(@RequestParam(defaultValue = "") String find) {
        return people.find(find);
    }

    @GetMapping("/overview")
    PeopleOverview peopleOverview() {
        return new PeopleOverview(sources.all(), runs.latest(), runs.latestGood());
    }

    /** A person by id; an id that was retired leads to the person it became. */
    @GetMapping("/{id}")
    People.PersonView person(@PathVariable long id) {
        return people.get(id);
    }

    /** Pairs that are neither strong nor weak enough to decide, the strongest first. */
    @GetMapping("/review")
    List<People.ReviewPair> review() {
        return people.review(50);
    }

    /** What the columns of a dataset probably say of a person. */
    @GetMapping("/sources/{datasetId}/suggestion")
    PeopleSources.PeopleSource suggestedColumns(@PathVariable long datasetId) {
        return sources.suggested(datasetId);
    }

    @PutMapping("/sources/{datasetId}")
    PeopleOverview tieColumns(@PathVariable long datasetId, @RequestBody TiedWish wish, Principal who) {
        sources.tie(datasetId, wish.columns(), wish.country(), wish.countryColumn(), who.getName());
        note(who, "tied columns to people", datasetId);
        return peopleOverview();
    }

    @DeleteMapping("/sources/{datasetId}")
    PeopleOverview untieColumns(@PathVariable long datasetId, Principal who) {
        sources.untie(datasetId);
        note(who, "took dataset out of people", datasetId);
        return peopleOverview();
    }

    private void note(Principal who, String what, long datasetId) {
        journal.write(
                who.getName(),
                what,
                new Journal.Subject(
                        "dataset", datasetId, datasets.get(datasetId).name()),
                "");
    }

    /** Reads every record and joins them anew; what people corrected holds. */
    @PostMapping("/runs")
    PeopleRunStarted joinRecords(Principal who) {
        long id = runs.start(who.getName());
        journal.write(who.getName(), "joined records into people", new Journal.Subject("people", id, "People"), "");
        return new PeopleRunStarted(id);
    }

    /** How good the people are beside labels somebody knows to be true. */
    @PostMapping("/quality")
    PeopleQuality.QualityView peopleQuality(@RequestBody LabelledText labels) {
        return quality.beside(labels.text());
    }

    /** Holds from the next run on. */
    @PostMapping("/corrections")
    List<Corrections.Correction> correct(@RequestBody CorrectionWish wish, Principal who) {
        if (wish.one().equals(wish.other())) {
            throw Problem.invalid("These are one record.");
        }
        corrections.decide(wish.one(), wish.other(), wish.together(), wish.reason(), who.getName());
        journal.write(
                who.getName(),
                wish.together() ? "joined two records" : "kept two records apart",
                new Journal.Subject(
                        "people", 0, wish.one().key() + " and " + wish.other().key()),
                wish.reason());
        return corrections.all();
    }

    @GetMapping("/corrections")
    List<Corrections.Correction> corrections() {
        return corrections.all();
    }
}

package remitto.server.people.overview;

import java.security.Principal;
import java.util.List;
import java.util.Locale;
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
import remitto.server.journal.Looks;
import remitto.server.people.EntityType;
import remitto.server.people.person.People;
import remitto.server.people.person.SensitiveAttributes;
import remitto.server.people.resolution.Corrections;
import remitto.server.people.resolution.PeopleRuns;
import remitto.server.people.source.DateLooks;
import remitto.server.people.source.PeopleSources;
import remitto.server.people.source.SuggestedColumns;
import remitto.server.people.trial.PeopleQuality;
import remitto.server.people.view.PeopleViews;
import remitto.server.platform.Problem;

/** People and companies: who they are, why, and what somebody corrected. */
@RestController
@RequestMapping("/api/people")
class PeopleController {
    private final SensitiveAttributes.Finder sensitive;
    private final Looks looks;
    private final People people;
    private final PeopleSources sources;
    private final PeopleRuns runs;
    private final Corrections corrections;
    private final PeopleQuality quality;
    private final PeopleViews views;
    private final DateLooks dates;
    private final Datasets datasets;
    private final PeopleSourceKeeping keeping;
    private final Journal journal;

    PeopleController(
            SensitiveAttributes.Finder sensitive,
            Looks looks,
            People people,
            PeopleSources sources,
            PeopleRuns runs,
            Corrections corrections,
            PeopleQuality quality,
            PeopleViews views,
            DateLooks dates,
            Datasets datasets,
            PeopleSourceKeeping keeping,
            Journal journal) {
        this.sensitive = sensitive;
        this.looks = looks;
        this.people = people;
        this.sources = sources;
        this.runs = runs;
        this.corrections = corrections;
        this.quality = quality;
        this.views = views;
        this.dates = dates;
        this.datasets = datasets;
        this.keeping = keeping;
        this.journal = journal;
    }

    /**
     * What the latest matching run came to.
     *
     * @param latest run
     * @param good the latest that went well, whose persons these are
     * @param source that datasets over them are made from; absent when it is not set up
     */
    record PeopleOverview(
            List<PeopleSources.PeopleSource> sources,
            Optional<PeopleRuns.PeopleRun> latest,
            Optional<PeopleRuns.PeopleRun> good,
            Optional<Long> source) {}

    /**
     * The place of a dataset in the order of sources, from 0.
     *
     * @param place in the order of sources, from 0
     */
    record PlaceRequest(int place) {}

    /**
     * A CSV file of records of which it is known who they are.
     *
     * @param text CSV with the columns dataset, key and person
     */
    record LabelledText(String text) {}

    /** Links two records, or keeps them apart. */
    record CorrectionRequest(
            Corrections.PersonRecordRef one, Corrections.PersonRecordRef other, boolean together, String reason) {}

    /**
     * People or companies, found by name, address, phone or any id.
     *
     * @param find text to find; blank for the first ones
     * @param entityType people or companies
     */
    @GetMapping
    List<People.PersonRow> people(
            @RequestParam(defaultValue = "PERSON") EntityType entityType,
            @RequestParam(defaultValue = "") String find) {
        return people.find(entityType, find);
    }

    /**
     * What the latest matching run came to.
     *
     * @param entityType people or companies
     */
    @GetMapping("/overview")
    PeopleOverview peopleOverview(@RequestParam(defaultValue = "PERSON") EntityType entityType) {
        return new PeopleOverview(
                sources.all(entityType), runs.latest(entityType), runs.latestGood(entityType), views.sourceId());
    }

    /** A person by id; an id that was retired leads to the person it became. */
    @GetMapping("/{id}")
    People.PersonView person(@PathVariable long id) {
        People.PersonView person = people.get(id);
        looks.at("looked at person", new Journal.Subject("person", person.id(), "person " + person.id()));
        return sensitive.of(person.entityType()).person(person);
    }

    /**
     * Pairs that are neither strong nor weak enough to decide, the strongest first.
     *
     * @param entityType people or companies
     */
    @GetMapping("/review")
    List<People.ReviewPair> review(@RequestParam(defaultValue = "PERSON") EntityType entityType) {
        looks.at(
                "looked at pairs for review",
                new Journal.Subject("people", 0, entityType.name().toLowerCase(Locale.ROOT)));
        SensitiveAttributes shown = sensitive.of(entityType);
        return people.review(entityType, 50).stream().map(shown::pair).toList();
    }

    /**
     * What the columns of a dataset probably say of a person.
     *
     * @param entityType people or companies
     */
    @GetMapping("/sources/{datasetId}/suggestion")
    PeopleSources.PeopleSource suggestedColumns(
            @PathVariable long datasetId, @RequestParam(defaultValue = "PERSON") EntityType entityType) {
        return SuggestedColumns.of(entityType, datasets.get(datasetId));
    }

    /** What the values of columns say about the order of day and month in their dates. */
    @PostMapping("/sources/{datasetId}/date-orders")
    List<DateLooks.ColumnDates> dateOrders(@PathVariable long datasetId, @RequestBody DateLooks.DateRequest request) {
        return dates.of(datasetId, request);
    }

    /** Maps the columns of a dataset to attributes of people or companies. Matching uses them the next time it runs. */
    @PutMapping("/sources/{datasetId}")
    PeopleOverview tieColumns(
            @PathVariable long datasetId, @RequestBody PeopleSources.ColumnMapping request, Principal who) {
        keeping.tie(datasetId, request, who.getName());
        return peopleOverview(request.entityType());
    }

    /**
     * Sources that come first decide ties.
     *
     * @param entityType people or companies
     */
    @PostMapping("/sources/{datasetId}/place")
    PeopleOverview placeSource(
            @PathVariable long datasetId,
            @RequestParam(defaultValue = "PERSON") EntityType entityType,
            @RequestBody PlaceRequest request,
            Principal who) {
        keeping.move(entityType, datasetId, request.place(), who.getName());
        return peopleOverview(entityType);
    }

    /**
     * Removes a dataset from people or companies. Its records leave them the next time matching runs.
     *
     * @param entityType people or companies
     */
    @DeleteMapping("/sources/{datasetId}")
    PeopleOverview untieColumns(
            @PathVariable long datasetId, @RequestParam(defaultValue = "PERSON") EntityType entityType, Principal who) {
        keeping.untie(datasetId, who.getName());
        return peopleOverview(entityType);
    }

    /**
     * How good the people are beside labels somebody knows to be true.
     *
     * @param entityType people or companies
     */
    @PostMapping("/quality")
    PeopleQuality.QualityView peopleQuality(
            @RequestParam(defaultValue = "PERSON") EntityType entityType, @RequestBody LabelledText labels) {
        return quality.beside(entityType, labels.text());
    }

    /** Holds from the next run on. */
    @PostMapping("/corrections")
    List<Corrections.Correction> correct(@RequestBody CorrectionRequest request, Principal who) {
        if (request.one().equals(request.other())) {
            throw Problem.invalid("These are the same record.");
        }
        corrections.decide(request.one(), request.other(), request.together(), request.reason(), who.getName());
        journal.write(
                who.getName(),
                request.together() ? "linked two records" : "kept two records apart",
                new Journal.Subject(
                        "people",
                        0,
                        request.one().key() + " and " + request.other().key()),
                request.reason());
        return corrections.all();
    }

    /** Pairs of records that somebody linked or kept apart. */
    @GetMapping("/corrections")
    List<Corrections.Correction> corrections() {
        return corrections.all();
    }
}

package remitto.server.event;

import java.security.Principal;
import java.util.List;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;

/** Events of people: which datasets they are, and reading them. */
@RestController
@RequestMapping("/api/events")
class EventController {
    private final EventSets sets;
    private final EventIntake intake;
    private final EventDatasets datasets;
    private final Journal journal;

    EventController(EventSets sets, EventIntake intake, EventDatasets datasets, Journal journal) {
        this.datasets = datasets;
        this.sets = sets;
        this.intake = intake;
        this.journal = journal;
    }

    /** The sets of events that are kept, with their counts. */
    @GetMapping
    List<EventSets.EventSet> eventSets() {
        return sets.all();
    }

    /** Keeps the rows of a dataset as events, and reads them. */
    @PostMapping
    EventSets.EventSet addEventSet(@RequestBody EventSets.EventSetRequest request, Principal who) {
        long id = sets.add(request, who.getName());
        note(who, "keeps events", id);
        intake.read(id, true);
        return sets.get(id);
    }

    /** Changes how the events of a dataset are kept. They are read again from the start. */
    @PutMapping("/{id}")
    EventSets.EventSet changeEventSet(
            @PathVariable long id, @RequestBody EventSets.EventSetRequest request, Principal who) {
        sets.change(id, request, who.getName());
        note(who, "changed how events are kept", id);
        intake.read(id, true);
        return sets.get(id);
    }

    /**
     * Reads the events of a set in the background.
     *
     * @param all whether everything is read again, however old
     */
    @PostMapping("/{id}/readings")
    EventSets.EventSet readEvents(@PathVariable long id, @RequestParam(defaultValue = "false") boolean all) {
        intake.read(id, all);
        return sets.get(id);
    }

    /** A dataset of the events with the person of each, to look up in; the same for every route. */
    record EventDataset(long id) {}

    /** Makes the dataset of a set of events, with the person of each, for look-ups in rules; the same one when it exists. */
    @PostMapping("/{id}/dataset")
    EventDataset eventDataset(@PathVariable long id, Principal who) {
        return new EventDataset(datasets.dataset(id, who.getName()));
    }

    /** Removes a set of events that no measure or audience uses. */
    @DeleteMapping("/{id}")
    List<EventSets.EventSet> removeEventSet(@PathVariable long id, Principal who) {
        String name = sets.get(id).name();
        sets.remove(id);
        journal.write(who.getName(), "keeps events no longer", new Journal.Subject("events", id, name), "");
        return sets.all();
    }

    private void note(Principal who, String what, long id) {
        journal.write(
                who.getName(),
                what,
                new Journal.Subject("events", id, sets.get(id).name()),
                "");
    }
}

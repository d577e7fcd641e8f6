package remitto.server.destination;

import java.security.Principal;
import java.time.Clock;
import java.util.List;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.destination.WholeFiles;
import remitto.connect.file.FileSample;
import remitto.core.file.FileLayout;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

/** Lays out the files that a destination takes. */
@RestController
@RequestMapping("/api/destinations/{id}/files")
class FileLayoutController {
    private final FileLayouts layouts;
    private final Destinations destinations;
    private final Connections connections;
    private final DeliveredFiles delivered;
    private final Journal journal;
    private final Clock clock;

    FileLayoutController(
            FileLayouts layouts,
            Destinations destinations,
            Connections connections,
            DeliveredFiles delivered,
            Journal journal,
            Clock clock) {
        this.layouts = layouts;
        this.destinations = destinations;
        this.connections = connections;
        this.delivered = delivered;
        this.journal = journal;
        this.clock = clock;
    }

    /** @param takesFiles whether the destination takes files at all; nothing else is said of one that does not */
    record FilesOfDestination(
            boolean takesFiles, List<FileLayouts.LaidOut> layouts, List<DeliveredFiles.Delivery> delivered) {}

    @GetMapping
    FilesOfDestination filesOfDestination(@PathVariable long id) {
        return connections.open(id).destination() instanceof WholeFiles
                ? new FilesOfDestination(true, layouts.all(id), delivered.latest(id))
                : new FilesOfDestination(false, List.of(), List.of());
    }

    /** Files from now on are so; those that were delivered stay as they are. */
    @PutMapping
    FilesOfDestination layOutFile(@PathVariable long id, @RequestBody FileLayout layout, Principal who) {
        if (!filesOfDestination(id).takesFiles()) {
            throw Problem.invalid("This destination takes records, not files.");
        }
        layouts.save(id, layout, who.getName());
        changed(id);
        connections.describeNow(id, layout.name());
        note(who, "laid out a file", id, layout.name());
        return filesOfDestination(id);
    }

    /** @param name of the file, @param text its first lines, made of examples */
    record FileSampleView(String name, String text) {}

    /** What a file would look like. Nothing is saved or delivered. */
    @PostMapping("/sample")
    FileSampleView sampleFile(@PathVariable long id, @RequestBody FileLayout layout) {
        FileSample sample = FileSample.of(layout, "A route", clock.instant());
        return new FileSampleView(sample.name(), sample.text());
    }

    @DeleteMapping("/{name}")
    FilesOfDestination removeFileLayout(@PathVariable long id, @PathVariable String name, Principal who) {
        layouts.remove(id, name);
        changed(id);
        note(who, "removed the layout of a file", id, name);
        return filesOfDestination(id);
    }

    private void changed(long id) {
        connections.changed(id);
        destinations.rememberObjects(id, connections.open(id).destination().objects());
    }

    private void note(Principal who, String what, long id, String name) {
        journal.write(
                who.getName(),
                what,
                new Journal.Subject("destination", id, destinations.get(id).name()),
                name);
    }
}

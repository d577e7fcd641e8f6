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
import remitto.connect.file.FileSample;
import remitto.core.file.FileLayout;

/** Lays out the files that a destination takes. */
@RestController
@RequestMapping("/api/destinations/{id}/files")
class FileLayoutController {
    private final FileLayouts layouts;
    private final FileLaying laying;
    private final DeliveredFiles delivered;
    private final Clock clock;

    FileLayoutController(FileLayouts layouts, FileLaying laying, DeliveredFiles delivered, Clock clock) {
        this.layouts = layouts;
        this.laying = laying;
        this.delivered = delivered;
        this.clock = clock;
    }

    /**
     * The file layouts and deliveries of a destination.
     *
     * @param takesFiles whether the destination takes files at all; nothing else is said of one that does not
     */
    record FilesOfDestination(
            boolean takesFiles, List<FileLayouts.SavedFileLayout> layouts, List<DeliveredFiles.Delivery> delivered) {}

    /** The file layouts of a destination, and the latest files that were delivered. */
    @GetMapping
    FilesOfDestination filesOfDestination(@PathVariable long id) {
        return laying.takesFiles(id)
                ? new FilesOfDestination(true, layouts.all(id), delivered.latest(id))
                : new FilesOfDestination(false, List.of(), List.of());
    }

    /** Files from now on are so; those that were delivered stay as they are. */
    @PutMapping
    FilesOfDestination layOutFile(@PathVariable long id, @RequestBody FileLayout layout, Principal who) {
        laying.layOut(id, layout, who.getName());
        return filesOfDestination(id);
    }

    /**
     * What a file with this layout looks like.
     *
     * @param name of the file
     * @param text its first lines, made of examples
     */
    record FileSampleView(String name, String text) {}

    /** What a file would look like. Nothing is saved or delivered. */
    @PostMapping("/sample")
    FileSampleView sampleFile(@PathVariable long id, @RequestBody FileLayout layout) {
        FileSample sample = FileSample.of(layout, "A route", clock.instant());
        return new FileSampleView(sample.name(), sample.text());
    }

    /** Removes a file layout that no route writes. */
    @DeleteMapping("/{name}")
    FilesOfDestination removeFileLayout(@PathVariable long id, @PathVariable String name, Principal who) {
        laying.remove(id, name, who.getName());
        return filesOfDestination(id);
    }
}

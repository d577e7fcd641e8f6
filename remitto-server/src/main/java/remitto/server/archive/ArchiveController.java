package remitto.server.archive;

import java.security.Principal;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Archiving. Refused with 409 and the names of its users while something is used. */
@RestController
@RequestMapping("/api")
class ArchiveController {
    private final Archive archive;

    ArchiveController(Archive archive) {
        this.archive = archive;
    }

    /** Archives a source that no dataset uses. */
    @DeleteMapping("/sources/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void archiveSource(@PathVariable long id, Principal who) {
        archive(Archivable.SOURCE, id, who);
    }

    /** Archives a destination that no route uses. Records that it holds stay in it. */
    @DeleteMapping("/destinations/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void archiveDestination(@PathVariable long id, Principal who) {
        archive(Archivable.DESTINATION, id, who);
    }

    /** Archives a file set whose table no dataset uses. Its files stay where they are. */
    @DeleteMapping("/file-sets/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void archiveFileSet(@PathVariable long id, Principal who) {
        archive(Archivable.FILE_SET, id, who);
    }

    /** Archives a receiver whose table no dataset uses. Its address takes no more calls. */
    @DeleteMapping("/receivers/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void archiveReceiver(@PathVariable long id, Principal who) {
        archive(Archivable.RECEIVER, id, who);
    }

    /** Archives a dataset that nothing uses. */
    @DeleteMapping("/datasets/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void archiveDataset(@PathVariable long id, Principal who) {
        archive(Archivable.DATASET, id, who);
    }

    /** Takes the route out of service for good. What it sent stays in the destination. */
    @DeleteMapping("/routes/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void archiveRoute(@PathVariable long id, Principal who) {
        archive(Archivable.ROUTE, id, who);
    }

    /** Archives a crosswalk that no rule uses. */
    @DeleteMapping("/crosswalks/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void archiveCrosswalk(@PathVariable long id, Principal who) {
        archive(Archivable.CROSSWALK, id, who);
    }

    /** Archives a profile that no destination uses. */
    @DeleteMapping("/profiles/{profile}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void archiveProfile(@PathVariable String profile, Principal who) {
        archive.archive(Archivable.PROFILE, profile, who.getName());
    }

    /** Who uses a file set; nobody when it can be archived. */
    @GetMapping("/file-sets/{id}/uses")
    List<String> fileSetUses(@PathVariable long id) {
        return archive.uses(Archivable.FILE_SET, Long.toString(id));
    }

    /** Who uses a receiver; nobody when it can be archived. */
    @GetMapping("/receivers/{id}/uses")
    List<String> receiverUses(@PathVariable long id) {
        return archive.uses(Archivable.RECEIVER, Long.toString(id));
    }

    /** Who uses a source; nobody when it can be archived. */
    @GetMapping("/sources/{id}/uses")
    List<String> sourceUses(@PathVariable long id) {
        return archive.uses(Archivable.SOURCE, Long.toString(id));
    }

    /** What uses a destination, so that it cannot be archived. */
    @GetMapping("/destinations/{id}/uses")
    List<String> destinationUses(@PathVariable long id) {
        return archive.uses(Archivable.DESTINATION, Long.toString(id));
    }

    /** What uses a dataset, so that it cannot be archived. */
    @GetMapping("/datasets/{id}/uses")
    List<String> datasetUses(@PathVariable long id) {
        return archive.uses(Archivable.DATASET, Long.toString(id));
    }

    /** What uses a route, so that it cannot be archived. */
    @GetMapping("/routes/{id}/uses")
    List<String> routeUses(@PathVariable long id) {
        return archive.uses(Archivable.ROUTE, Long.toString(id));
    }

    /** What uses a crosswalk, so that it cannot be archived. */
    @GetMapping("/crosswalks/{id}/uses")
    List<String> crosswalkUses(@PathVariable long id) {
        return archive.uses(Archivable.CROSSWALK, Long.toString(id));
    }

    private void archive(Archivable kind, long id, Principal who) {
        archive.archive(kind, Long.toString(id), who.getName());
    }
}

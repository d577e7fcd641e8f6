package remitto.server.destination;

import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Where people open a record in the tool itself. */
@RestController
@RequestMapping("/api")
class RecordPageController {
    private final Connections connections;

    RecordPageController(Connections connections) {
        this.connections = connections;
    }

    /**
     * The tool's own page of a record.
     *
     * @param template its address as a URI template (RFC 6570, level 1) of {@code object} and {@code id}; absent where the
     *     profile names none
     */
    record RecordPage(Optional<String> template) {}

    /** Where a destination shows a record itself. */
    @GetMapping("/destinations/{id}/record-page")
    RecordPage recordPage(@PathVariable long id) {
        return new RecordPage(connections.open(id).destination().recordPage());
    }
}

package remitto.server.label;

import java.security.Principal;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;

@RestController
@RequestMapping("/api/labels")
class LabelController {
    private final Labels labels;
    private final Journal journal;

    LabelController(Labels labels, Journal journal) {
        this.labels = labels;
        this.journal = journal;
    }

    /** Everybody with an active account, to choose an owner from. */
    @GetMapping("/colleagues")
    List<Labels.Colleague> colleagues() {
        return labels.colleagues();
    }

    /** Owners and tags of a kind of things; what has neither is missing. */
    @GetMapping("/{kind}")
    List<Labels.Label> labels(@PathVariable LabelKind kind) {
        return labels.all(kind);
    }

    /** Changes owner and tags of several things at once: of all of them, or of none. */
    @PutMapping("/{kind}")
    List<Labels.Label> changeLabels(
            @PathVariable LabelKind kind, @RequestBody Labels.LabelChange change, Principal who) {
        String words = labels.words(change);
        labels.change(kind, change)
                .forEach(thing -> journal.write(
                        who.getName(),
                        "changed owner or tags",
                        new Journal.Subject(kind.table(), thing.id(), thing.name()),
                        words));
        return labels.all(kind);
    }
}

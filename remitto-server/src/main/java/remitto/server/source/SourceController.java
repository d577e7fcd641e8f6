package remitto.server.source;

import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

@RestController
@RequestMapping("/api/sources")
class SourceController {
    private final Sources sources;
    private final Journal journal;

    SourceController(Sources sources, Journal journal) {
        this.sources = sources;
        this.journal = journal;
    }

    /** @param password absent to keep the one that is stored */
    record SourceDraft(String name, Sources.WarehouseAddress address, Optional<String> password) {}

    @GetMapping
    List<Sources.Source> sources() {
        return sources.all();
    }

    @GetMapping("/{id}")
    Sources.Source source(@PathVariable long id) {
        return sources.get(id);
    }

    @PostMapping
    Sources.Source addSource(@RequestBody SourceDraft draft, Principal who) {
        long id = sources.add(named(draft), draft.address(), draft.password().orElse(""));
        journal.write(who.getName(), "connected source", new Journal.Subject("source", id, draft.name()), "");
        return test(id);
    }

    @PutMapping("/{id}")
    Sources.Source changeSource(@PathVariable long id, @RequestBody SourceDraft draft, Principal who) {
        if (sources.get(id).kind().equals("people")) {
            throw Problem.conflict(
                    "This source is Remitto's own; where it is read is set where the server is started.");
        }
        sources.change(id, named(draft), draft.address(), draft.password().filter(text -> !text.isEmpty()));
        journal.write(who.getName(), "changed source", new Journal.Subject("source", id, draft.name()), "");
        return test(id);
    }

    @PostMapping("/{id}/test")
    Sources.Source test(@PathVariable long id) {
        sources.test(id);
        return sources.get(id);
    }

    private static String named(SourceDraft draft) {
        if (draft.name().isBlank()) {
            throw Problem.invalid("Give the source a name, so that a second one can be told apart.");
        }
        return draft.name().strip();
    }
}

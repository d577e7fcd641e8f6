package remitto.server.source;

import java.io.IOException;
import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.source.SourceReport;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

@RestController
@RequestMapping("/api/sources")
class SourceController {
    private final Sources sources;
    private final SourceKeeping keeping;
    private final Dialects dialects;
    private final Journal journal;

    SourceController(Sources sources, SourceKeeping keeping, Dialects dialects, Journal journal) {
        this.dialects = dialects;
        this.sources = sources;
        this.keeping = keeping;
        this.journal = journal;
    }

    /**
     * A source to be connected or changed.
     *
     * @param password absent to keep the one that is stored
     */
    record SourceDraft(String name, SourceAddress address, Optional<String> password) {}

    /** All sources, without passwords. */
    @GetMapping
    List<Sources.Source> sources() {
        return sources.all();
    }

    /** The kinds of database that can be read here. */
    @GetMapping("/dialects")
    List<Dialects.KnownDialect> dialects() {
        return dialects.all();
    }

    /** A source, without its password. */
    @GetMapping("/{id}")
    Sources.Source source(@PathVariable long id) {
        return sources.get(id);
    }

    /** Connects a source and tests it. */
    @PostMapping
    Sources.Source addSource(@RequestBody SourceDraft draft, Principal who) {
        long id = keeping.add(draft.name(), draft.address(), draft.password().orElse(""), who.getName());
        return test(id);
    }

    /** Changes a source. A password belongs to the address it was given for: with another address it is given again. */
    @PutMapping("/{id}")
    Sources.Source changeSource(@PathVariable long id, @RequestBody SourceDraft draft, Principal who) {
        keeping.change(id, draft.name(), draft.address(), draft.password(), who.getName());
        return test(id);
    }

    /** Accepts a login of a source that can do more than read. */
    record AcceptLoginRequest(String reason) {}

    /** Lets a login that may do more than read be used for reading. Administrators only, and never for a superuser. */
    @PostMapping("/{id}/accept-login")
    Sources.Source acceptLogin(@PathVariable long id, @RequestBody AcceptLoginRequest wanted, Principal who) {
        Sources.Source source = sources.get(id);
        if (wanted.reason().isBlank()) {
            throw Problem.invalid("Give the reason why this login is used.");
        }
        List<String> beyond = source.report().map(SourceReport::warnings).orElse(List.of());
        if (beyond.isEmpty()) {
            throw Problem.conflict("There is nothing to accept: test the source first.");
        }
        sources.acceptLogin(id, wanted.reason().strip(), who.getName());
        journal.write(
                who.getName(),
                "accepted a login that may do more than read",
                new Journal.Subject("source", id, source.name()),
                String.join("; ", beyond) + ". " + wanted.reason().strip());
        return sources.get(id);
    }

    /** Connects to a source and reports what its login can read. */
    @PostMapping("/{id}/test")
    Sources.Source test(@PathVariable long id) {
        sources.test(id);
        return sources.get(id);
    }

    /** How many bytes of an upload have arrived; it goes on from there. */
    record UploadProgress(long arrived) {}

    /**
     * How far an upload has come.
     *
     * @param name of the file
     */
    @GetMapping("/{id}/uploads")
    UploadProgress uploadProgress(@PathVariable long id, @RequestParam String name) {
        return new UploadProgress(sources.uploads(id).arrived(name));
    }

    /**
     * Takes a part of a file, which is on disk before this is answered.
     *
     * @param name of the file
     * @param from where in the file the part begins: where what has arrived ends, or 0 to begin anew
     */
    @PutMapping(path = "/{id}/uploads", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    UploadProgress uploadPart(
            @PathVariable long id, @RequestParam String name, @RequestParam long from, @RequestBody byte[] part)
            throws IOException {
        return new UploadProgress(sources.uploads(id).write(name, from, part));
    }

    /** The size of an upload in bytes, all of which have arrived. */
    record FinishedUpload(String name, long size) {}

    /** Makes an upload a file of the source; one of that name that is there already is replaced. */
    @PostMapping("/{id}/uploads")
    UploadProgress finishUpload(@PathVariable long id, @RequestBody FinishedUpload upload, Principal who) {
        Sources.Source source = sources.get(id);
        sources.uploads(id).finish(upload.name(), upload.size());
        journal.write(
                who.getName(),
                "uploaded a file",
                new Journal.Subject("source", id, source.name()),
                upload.name() + ", " + upload.size() + " bytes");
        return new UploadProgress(upload.size());
    }
}

package remitto.server.rights;

import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.people.person.PersonFileSection;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.Right;

/** All that is kept of a person and was sent, on one page and as a download. Whoever looks is written down. */
@RestController
@RequestMapping("/api/people/{id}")
class PersonFileController {
    private final CurrentUser user;
    private final List<PersonFileSection> sections;
    private final Journal journal;
    private final Clock clock;

    PersonFileController(CurrentUser user, List<PersonFileSection> sections, Journal journal, Clock clock) {
        this.user = user;
        this.sections = sections.stream()
                .sorted(Comparator.comparingInt(PersonFileSection::place))
                .toList();
        this.journal = journal;
        this.clock = clock;
    }

    /** Everything that is kept about a person and was sent. */
    record PersonFile(long personId, Instant preparedAt, List<PersonFileSection.FileTable> tables) {}

    /** Everything that is kept about a person and was sent, by which rule and on which legal basis. Written to the journal. */
    @GetMapping("/file")
    PersonFile personFile(@PathVariable long id, Principal who) {
        return preparation(id, "read the file of a person", who);
    }

    /** The same as a JSON document. */
    @GetMapping(path = "/file.json", produces = MediaType.APPLICATION_JSON_VALUE)
    ResponseEntity<PersonFile> personFileDownload(@PathVariable long id, Principal who) {
        user.require(Right.DOWNLOAD_PERSONAL_VALUES);
        return ResponseEntity.ok()
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment()
                                .filename("person-" + id + ".json")
                                .build()
                                .toString())
                .body(preparation(id, "downloaded the file of a person", who));
    }

    private PersonFile preparation(long id, String what, Principal who) {
        PersonFile file = new PersonFile(
                id,
                clock.instant(),
                sections.stream().flatMap(section -> section.of(id).stream()).toList());
        journal.write(who.getName(), what, new Journal.Subject("person", id, "person " + id), "");
        return file;
    }
}

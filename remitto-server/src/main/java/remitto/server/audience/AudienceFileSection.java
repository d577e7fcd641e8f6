package remitto.server.audience;

import java.util.List;
import org.springframework.stereotype.Component;
import remitto.server.people.person.PersonFileSection;

/** The audiences a person is or was in. */
@Component
class AudienceFileSection implements PersonFileSection {
    private final Memberships memberships;

    AudienceFileSection(Memberships memberships) {
        this.memberships = memberships;
    }

    @Override
    public int place() {
        return 3;
    }

    @Override
    public List<FileTable> of(long person) {
        return List.of(new FileTable(
                "Audiences",
                "Groups of people by a condition, from a count until a count.",
                List.of("audience", "since", "until", "control group"),
                memberships.ofPerson(person).stream()
                        .map(stay -> List.of(
                                stay.audience(),
                                stay.since().toString(),
                                stay.until().map(Object::toString).orElse(""),
                                stay.inControlGroup() ? "yes" : ""))
                        .toList()));
    }
}

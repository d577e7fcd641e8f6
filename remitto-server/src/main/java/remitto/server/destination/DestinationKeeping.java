package remitto.server.destination;

import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;
import remitto.connect.profile.Profile;
import remitto.server.journal.Journal;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.Role;
import remitto.server.platform.Problem;
import remitto.server.profile.Profiles;

/** Connecting destinations and changing them: checked and written in the journal, by whatever way somebody asks for it. */
@Component
class DestinationKeeping {
    private final CurrentUser user;
    private final LetInOrigins origins;
    private final Destinations destinations;
    private final Profiles profiles;
    private final Connections connections;
    private final SecretAddresses addresses;
    private final Grants grants;
    private final Journal journal;

    DestinationKeeping(
            CurrentUser user,
            LetInOrigins origins,
            Destinations destinations,
            Profiles profiles,
            Connections connections,
            SecretAddresses addresses,
            Grants grants,
            Journal journal) {
        this.user = user;
        this.origins = origins;
        this.destinations = destinations;
        this.profiles = profiles;
        this.connections = connections;
        this.addresses = addresses;
        this.grants = grants;
        this.journal = journal;
    }

    /** @return the destination, which is not tested yet */
    long add(Destinations.Wanted wanted, String profileName, String who) {
        if (wanted.name().isBlank()) {
            throw Problem.invalid("Give the destination a name, so that a second one can be told apart.");
        }
        var profile = profiles.inService(profileName);
        long id = destinations.add(wanted, profile.profile(), profile.number());
        addresses.given(id, profile.profile());
        origins.none(id);
        journal.write(
                who,
                "connected destination",
                new Journal.Subject("destination", id, wanted.name()),
                profileName + " at " + String.join(", ", addresses.now(id)));
        letInByAdministrator(id, addresses.now(id), who);
        return id;
    }

    /** Secrets that are left out stay as they are; a sign-in at the tool is forgotten when it would go elsewhere. */
    void change(long id, Destinations.Wanted wanted, String who) {
        var before = destinations.get(id);
        Profile profile = profiles.version(before.profile(), before.profileVersion());
        boolean moves = addresses.moves(id, wanted, profile);
        Set<String> old = addresses.now(id);
        destinations.change(id, wanted, profile);
        if (moves) {
            grants.forget(id);
            addresses.given(id, profile);
        }
        connections.changed(id);
        Set<String> now = addresses.now(id);
        journal.write(
                who,
                "changed destination",
                new Journal.Subject("destination", id, wanted.name()),
                old.equals(now) ? "" : "from " + String.join(", ", old) + " to " + String.join(", ", now));
        letInByAdministrator(id, now, who);
    }

    private void letInByAdministrator(long id, Set<String> now, String who) {
        if (user.isAtLeast(Role.ADMIN)) {
            letIn(id, now, who);
        }
    }

    /** @param seen origins that the administrator has seen; refused if others came meanwhile */
    void letIn(long id, Set<String> seen, String who) {
        List<String> fresh = origins.letIn(id, seen);
        if (!fresh.isEmpty()) {
            journal.write(
                    who,
                    "allowed data to go to addresses",
                    new Journal.Subject("destination", id, destinations.get(id).name()),
                    String.join(", ", fresh));
        }
    }
}

package remitto.connect.file;

import java.nio.file.Path;
import java.util.List;
import remitto.connect.destination.RateLimit;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.profile.Profile;
import remitto.connect.signin.Login;
import remitto.core.file.FileLayout;

/** Opens destinations that take files. */
public final class FilePlaces {
    private FilePlaces() {}

    /** Whether neither folder is, or lies within, the other. Both are addresses of places below the one folder that may be written to. */
    public static boolean apart(String one, String other) {
        Path first = Path.of("/").resolve(one.strip()).normalize();
        Path second = Path.of("/").resolve(other.strip()).normalize();
        return !first.startsWith(second) && !second.startsWith(first);
    }

    /** @param outbox the folder of this machine that files may be put in */
    public static FileDestination open(
            Profile profile,
            Login login,
            List<FileLayout> layouts,
            Path outbox,
            AddressGuard guard,
            RateLimit rateLimit) {
        Place place = profile.speaks().filter(Profile.Speaks.FOLDER::equals).isPresent()
                ? new FolderPlace(outbox, login.setting("base_address"))
                : new SftpPlace(profile.title(), login, guard, rateLimit);
        return new FileDestination(place, layouts);
    }
}

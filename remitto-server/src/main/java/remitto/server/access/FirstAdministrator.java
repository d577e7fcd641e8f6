package remitto.server.access;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.SmartInitializingSingleton;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import remitto.server.permission.Role;
import remitto.server.platform.RemittoProperties;

/**
 * Sees to it that somebody can sign in for the first time: by the settings, or by a link that works once. Done before the web server takes
 * its first call.
 */
@Component
class FirstAdministrator implements SmartInitializingSingleton {
    private static final Logger LOG = LoggerFactory.getLogger(FirstAdministrator.class);
    private static final Duration LASTS = Duration.ofHours(24);

    private final Users users;
    private final Invitations invitations;
    private final RemittoProperties properties;
    private final String linkFile;

    /** @param linkFile where the path of the link is written, readable by its owner alone; blank for the log */
    FirstAdministrator(
            Users users,
            Invitations invitations,
            RemittoProperties properties,
            @Value("${remitto.first-link-file}") String linkFile) {
        this.users = users;
        this.invitations = invitations;
        this.properties = properties;
        this.linkFile = linkFile;
    }

    @Override
    public void afterSingletonsInstantiated() {
        Optional<Path> file =
                Optional.of(linkFile).filter(name -> !name.isBlank()).map(Path::of);
        if (!users.none()) {
            file.ifPresent(FirstAdministrator::remove);
            return;
        }
        RemittoProperties.Administrator wanted = properties.administrator();
        if (wanted.password().isEmpty()) {
            String path = "/welcome/" + link();
            file.ifPresentOrElse(
                    place -> write(place, path),
                    () -> LOG.info("Nobody can sign in yet. Make the first administrator at {}, within a day.", path));
        } else if (wanted.email().isBlank()) {
            throw new IllegalStateException(
                    "There is a password for the first administrator (REMITTO_ADMIN_PASSWORD) and"
                            + " no e-mail address. Set REMITTO_ADMIN_EMAIL.");
        } else {
            users.add(new Users.Profile(wanted.email(), "Administrator", Role.ADMIN), wanted.password());
        }
    }

    /** A link of an earlier start leads nowhere any more. */
    private String link() {
        invitations.open().stream().filter(one -> one.email().isEmpty()).forEach(one -> invitations.withdraw(one.id()));
        return invitations.make("", Role.ADMIN, "Remitto", LASTS).token();
    }

    private static void write(Path file, String path) {
        try {
            Files.deleteIfExists(file);
            Files.createFile(file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            Files.writeString(file, path + "\n");
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static void remove(Path file) {
        try {
            Files.deleteIfExists(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

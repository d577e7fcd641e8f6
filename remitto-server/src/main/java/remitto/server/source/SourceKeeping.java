package remitto.server.source;

import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.connect.database.DatabaseSettings;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

/** Connecting sources and changing them: checked and written in the journal, by whatever way somebody asks for it. */
@Component
class SourceKeeping {
    private final Sources sources;
    private final Dialects dialects;
    private final Journal journal;

    SourceKeeping(Sources sources, Dialects dialects, Journal journal) {
        this.sources = sources;
        this.dialects = dialects;
        this.journal = journal;
    }

    /** @return the source, which is not tested yet */
    long add(String name, SourceAddress address, String password, String who) {
        check(address);
        long id = sources.add(named(name), address, password);
        journal.write(who, "connected source", new Journal.Subject("source", id, name), address.words());
        return id;
    }

    /**
     * A password belongs to the address it was given for: with another address it is given again.
     *
     * @param given absent, or empty, to keep the one that is stored
     */
    void change(long id, String name, SourceAddress address, Optional<String> given, String who) {
        Sources.Source before = sources.get(id);
        if (before.isOwn()) {
            throw Problem.conflict(
                    "This source is Remitto's own; where it is read is set where the server is started.");
        }
        check(address);
        Optional<String> password = given.filter(text -> !text.isEmpty());
        if (before.address() instanceof DatabaseAddress != address instanceof DatabaseAddress
                || before.isOfCalls() != address instanceof CallAddress) {
            throw Problem.conflict(
                    "A database stays one, and a place of files or receivers too: connect another source.");
        }
        if (!before.address().equals(address) && password.isEmpty() && address.isLocked()) {
            throw Problem.invalid(
                    "The stored password was given for " + before.address().words()
                            + ". Enter the password again to use it with another address, user or TLS setting.");
        }
        sources.change(id, named(name), address, password);
        journal.write(
                who,
                "changed source",
                new Journal.Subject("source", id, name),
                before.address().equals(address)
                        ? address.words()
                        : "from " + before.address().words() + " to " + address.words());
    }

    private void check(SourceAddress address) {
        if (address instanceof DatabaseAddress database) {
            check(database);
        } else if (address instanceof FileServerAddress server
                && (server.host().isBlank()
                        || server.user().isBlank()
                        || server.port() < 1
                        || server.port() > 65_535)) {
            throw Problem.invalid("Enter the server's name, its port and the login.");
        }
    }

    private void check(DatabaseAddress address) {
        Dialects.KnownDialect known = dialects.get(address.dialectName());
        if (!known.tls() && address.tls() != DatabaseSettings.Tls.OFF) {
            throw Problem.invalid("The dialect of " + known.title()
                    + " declares no TLS, so nothing would be encrypted. Set TLS to off.");
        }
        address.settings("");
    }

    private static String named(String name) {
        if (name.isBlank()) {
            throw Problem.invalid("Give the source a name, so that a second one can be told apart.");
        }
        return name.strip();
    }
}

package remitto.server.source;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import remitto.connect.filedrop.FileStore;
import remitto.connect.filedrop.FolderStore;
import remitto.connect.filedrop.SftpStore;
import remitto.connect.outgoing.AddressGuard;

/** Opens the places that sources of files are read from. */
@Component
class FileStores {
    private static final Logger LOG = LoggerFactory.getLogger(FileStores.class);

    private final Path inbox;
    private final Path uploads;
    private final AddressGuard guard;

    /**
     * @param inbox folder below which sources on this machine have their files
     * @param uploads folder that uploaded files are kept in
     */
    FileStores(@Value("${remitto.inbox}") Path inbox, @Value("${remitto.uploads}") Path uploads, AddressGuard guard) {
        this.inbox = inbox;
        make(inbox);
        this.uploads = uploads;
        this.guard = guard;
    }

    /** Whoever leaves files there needs to write to it, so that somebody else may have made it, or may have to. */
    private static void make(Path inbox) {
        try {
            Files.createDirectories(inbox);
        } catch (IOException e) {
            LOG.warn("The folder {}, below which sources have their files, cannot be made: {}", inbox, e.toString());
        }
    }

    /** @param password or a private key; blank where none is needed */
    FileStore open(long source, FileAddress address, String password) {
        if (address instanceof FolderAddress folder) {
            return new FolderStore(inbox, folder.folder());
        }
        if (address instanceof FileServerAddress server) {
            return new SftpStore(
                    new SftpStore.Login(
                            server.host(), server.port(), server.folder(), server.user(), server.hostKey(), password),
                    guard);
        }
        return new UploadStore(uploads, source);
    }

    /** Where the uploaded files of a source are. */
    UploadStore uploads(long source) {
        return new UploadStore(uploads, source);
    }
}

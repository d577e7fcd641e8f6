package remitto.server.secret;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Optional;

/** The file that keys are kept in, for its owner alone. */
final class KeyFile {
    private final Path file;

    KeyFile(Path file) {
        this.file = file;
    }

    /**
     * @return empty when there is none
     * @throws IllegalStateException if it holds no whole number of keys
     */
    Optional<byte[]> read() {
        try {
            if (!Files.exists(file)) {
                return Optional.empty();
            }
            byte[] kept = Files.readAllBytes(file);
            if (!KeyRing.fits(kept.length)) {
                throw new IllegalStateException("The key file " + file + " holds " + kept.length
                        + " bytes where a key has " + KeyRing.KEY_BYTES
                        + ". Put the right file back, from where it is backed up apart from the database.");
            }
            return Optional.of(kept);
        } catch (IOException e) {
            throw new UncheckedIOException("The key file " + file + " cannot be read", e);
        }
    }

    /**
     * Makes the file with a key.
     *
     * @return what it holds, which is another's when another process was first
     */
    byte[] make(byte[] key) {
        try {
            Path beside = beside(key);
            try {
                // Whole from the moment it has its name, and only if nothing has it yet.
                Files.createLink(file, beside);
            } catch (FileAlreadyExistsException another) {
                return read().orElseThrow();
            } finally {
                Files.delete(beside);
            }
            return key;
        } catch (IOException e) {
            throw new UncheckedIOException("The key file " + file + " cannot be made", e);
        }
    }

    /** Puts keys in place of those there are, all at once: whoever reads it meanwhile reads the ones or the others. */
    void write(byte[] keys) {
        try {
            Files.move(beside(keys), file, StandardCopyOption.ATOMIC_MOVE);
        } catch (IOException e) {
            throw new UncheckedIOException("The key file " + file + " cannot be written", e);
        }
    }

    private Path beside(byte[] keys) throws IOException {
        Path folder = file.toAbsolutePath().getParent();
        Files.createDirectories(folder);
        Path beside = Files.createTempFile(
                folder,
                file.getFileName().toString(),
                ".new",
                PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
        Files.write(beside, keys, StandardOpenOption.WRITE, StandardOpenOption.SYNC);
        return beside;
    }
}

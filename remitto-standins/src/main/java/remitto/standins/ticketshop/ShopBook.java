package remitto.standins.ticketshop;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import tools.jackson.databind.json.JsonMapper;

/** Who signed up, and who is to be told; kept in a file across restarts. */
final class ShopBook {
    private static final int FIRST = 1_001;

    private final Path file;
    private final JsonMapper json;
    private Kept kept;

    ShopBook(Path file, JsonMapper json) {
        this.file = file;
        this.json = json;
        this.kept = Files.exists(file) ? json.readValue(file, Kept.class) : new Kept(Optional.empty(), List.of());
    }

    /**
     * Who is told.
     *
     * @param origin scheme, name and port of the address
     * @param path of the address
     */
    record Listener(String origin, String path, String secret) {}

    private record Kept(Optional<Listener> listener, List<SignUp> signUps) {}

    private void keep(Kept next) {
        kept = next;
        try {
            Files.createDirectories(file.getParent());
            Path part = file.resolveSibling(file.getFileName() + ".part");
            json.writeValue(part, next);
            Files.move(part, file, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    synchronized Optional<Listener> listener() {
        return kept.listener();
    }

    synchronized void tell(Listener listener) {
        keep(new Kept(Optional.of(listener), kept.signUps()));
    }

    /** The same, who is found elsewhere now. */
    synchronized void moved(String origin) {
        kept.listener().ifPresent(one -> tell(new Listener(origin, one.path(), one.secret())));
    }

    /** The first first. */
    synchronized List<SignUp> all() {
        return kept.signUps();
    }

    /** @param without its number, which it is given */
    synchronized void add(SignUp without) {
        List<SignUp> all = new ArrayList<>(kept.signUps());
        all.add(new SignUp(
                "S-" + (FIRST + all.size()),
                without.at(),
                without.given(),
                without.family(),
                without.mail(),
                without.port(),
                without.newsletter(),
                false));
        keep(new Kept(kept.listener(), List.copyOf(all)));
    }

    synchronized void told(String no) {
        keep(new Kept(
                kept.listener(),
                kept.signUps().stream()
                        .map(one -> one.no().equals(no) ? one.asTold() : one)
                        .toList()));
    }

    synchronized void clear() {
        keep(new Kept(Optional.empty(), List.of()));
    }
}

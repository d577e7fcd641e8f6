package remitto.server.destination;

import org.springframework.stereotype.Component;
import remitto.core.file.FileLayout;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

/** Lays out and lets go of files that a destination takes, and tells whoever must know. */
@Component
public class FileLaying {
    private final FileLayouts layouts;
    private final Destinations destinations;
    private final Connections connections;
    private final Journal journal;

    FileLaying(FileLayouts layouts, Destinations destinations, Connections connections, Journal journal) {
        this.layouts = layouts;
        this.destinations = destinations;
        this.connections = connections;
        this.journal = journal;
    }

    boolean takesFiles(long destination) {
        return connections.open(destination).destination().files().isPresent();
    }

    /** @throws Problem if there is a file of that name, or the destination takes none */
    public void layOutNew(long destination, FileLayout layout, String who) {
        if (layouts.of(destination).stream().anyMatch(one -> one.name().equals(layout.name()))) {
            throw Problem.conflict("A file " + layout.name() + " already exists. Choose it or use another name.");
        }
        layOut(destination, layout, who);
    }

    void layOut(long destination, FileLayout layout, String who) {
        if (!takesFiles(destination)) {
            throw Problem.invalid("This destination takes records, not files.");
        }
        layouts.save(destination, layout, who);
        changed(destination);
        connections.describeNow(destination, layout.name());
        note(who, "created a file layout", destination, layout.name());
    }

    void remove(long destination, String name, String who) {
        layouts.remove(destination, name);
        changed(destination);
        note(who, "removed the layout of a file", destination, name);
    }

    private void changed(long destination) {
        connections.changed(destination);
        destinations.rememberObjects(
                destination, connections.open(destination).destination().objects());
    }

    private void note(String who, String what, long destination, String name) {
        journal.write(
                who,
                what,
                new Journal.Subject(
                        "destination",
                        destination,
                        destinations.get(destination).name()),
                name);
    }
}

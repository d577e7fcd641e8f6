package remitto.server.receiver;

import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.receiver.ReceiverDefinition;
import remitto.server.archive.Archivable;
import remitto.server.archive.Archive;
import remitto.server.definition.DefinitionKind;
import remitto.server.source.Sources;

/** Receivers as files. Addresses and secrets are not in them; a new receiver is given fresh ones. */
@Component
class ReceiverFiles implements DefinitionKind<ReceiverFiles.ReceiverFile> {
    private final Receivers receivers;
    private final ReceiverKeeping keeping;
    private final Archive archive;
    private final Sources sources;

    ReceiverFiles(Receivers receivers, ReceiverKeeping keeping, Archive archive, Sources sources) {
        this.receivers = receivers;
        this.keeping = keeping;
        this.archive = archive;
        this.sources = sources;
    }

    /**
     * A receiver.
     *
     * @param table of the schema {@code landed}; it stays
     * @param calls how they are checked, what of them is kept, and what they mean
     */
    record ReceiverFile(String name, long source, String table, ReceiverDefinition calls) {}

    @Override
    public Form<ReceiverFile> form() {
        return new Form<>("receiver", "receivers", ReceiverFile.class, 16, false);
    }

    @Override
    public List<Kept<ReceiverFile>> all() {
        return receivers.all().stream()
                .map(one -> new Kept<>(
                        Long.toString(one.id()),
                        one.name(),
                        new ReceiverFile(one.name(), one.sourceId(), one.table(), one.definition()),
                        Optional.<ReceiverFile>empty()))
                .toList();
    }

    private static ReceiverKeeping.Wanted wanted(ReceiverFile file) {
        return new ReceiverKeeping.Wanted(file.name(), file.source(), file.table(), file.calls());
    }

    @Override
    public String add(Change<ReceiverFile> change) {
        long id = keeping.add(wanted(change.content()), Optional.empty(), change.who());
        change.later().accept(() -> sources.test(change.content().source()));
        return Long.toString(id);
    }

    @Override
    public void change(String id, Change<ReceiverFile> change) {
        long number = Long.parseLong(id);
        keeping.save(number, receivers.get(number).revision(), wanted(change.content()), change.who());
    }

    @Override
    public void remove(String id, String who) {
        archive.archive(Archivable.RECEIVER, id, who);
    }
}

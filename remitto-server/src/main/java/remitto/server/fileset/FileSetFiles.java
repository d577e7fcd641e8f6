package remitto.server.fileset;

import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.fileset.FileSetDefinition;
import remitto.server.archive.Archivable;
import remitto.server.archive.Archive;
import remitto.server.definition.DefinitionKind;
import remitto.server.source.Sources;

/** File sets as files. */
@Component
class FileSetFiles implements DefinitionKind<FileSetFiles.FileSetFile> {
    private final FileSets sets;
    private final FileSetKeeping keeping;
    private final Archive archive;
    private final Sources sources;

    FileSetFiles(FileSets sets, FileSetKeeping keeping, Archive archive, Sources sources) {
        this.sources = sources;
        this.sets = sets;
        this.keeping = keeping;
        this.archive = archive;
    }

    /**
     * A set of files.
     *
     * @param table of the schema {@code landed}; it stays
     * @param files which they are, how they are spelled, and what they mean
     */
    record FileSetFile(String name, long source, String table, FileSetDefinition files) {}

    @Override
    public Form<FileSetFile> form() {
        return new Form<>("file-set", "file-sets", FileSetFile.class, 15, false);
    }

    @Override
    public List<Kept<FileSetFile>> all() {
        return sets.all().stream()
                .map(one -> new Kept<>(
                        Long.toString(one.id()),
                        one.name(),
                        new FileSetFile(one.name(), one.sourceId(), one.table(), one.definition()),
                        Optional.<FileSetFile>empty()))
                .toList();
    }

    private static FileSetKeeping.Wanted wanted(FileSetFile file) {
        return new FileSetKeeping.Wanted(file.name(), file.source(), file.table(), file.files());
    }

    @Override
    public String add(Change<FileSetFile> change) {
        long id = keeping.add(wanted(change.content()), change.who());
        change.later().accept(() -> sources.test(change.content().source()));
        return Long.toString(id);
    }

    @Override
    public void change(String id, Change<FileSetFile> change) {
        long number = Long.parseLong(id);
        keeping.save(number, sets.get(number).revision(), wanted(change.content()), change.who());
    }

    @Override
    public void remove(String id, String who) {
        archive.archive(Archivable.FILE_SET, id, who);
    }
}

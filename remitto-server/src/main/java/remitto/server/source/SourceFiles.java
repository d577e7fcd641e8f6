package remitto.server.source;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import remitto.server.archive.Archivable;
import remitto.server.archive.Archive;
import remitto.server.definition.DefinitionKind;

/** Sources as files, without their passwords. */
@Component
class SourceFiles implements DefinitionKind<SourceFiles.SourceFile> {
    private static final String PASSWORD = "password";

    private final Sources sources;
    private final SourceKeeping keeping;
    private final Archive archive;

    SourceFiles(Sources sources, SourceKeeping keeping, Archive archive) {
        this.sources = sources;
        this.keeping = keeping;
        this.archive = archive;
    }

    /** A source. Its password is a secret of that name. */
    record SourceFile(String name, SourceAddress address) {}

    @Override
    public Form<SourceFile> form() {
        return new Form<>("source", "sources", SourceFile.class, 10, false);
    }

    @Override
    public List<Kept<SourceFile>> all() {
        return sources.all().stream()
                .filter(one -> !one.isOwn())
                .map(one -> new Kept<>(
                        Long.toString(one.id()),
                        one.name(),
                        new SourceFile(one.name(), one.address()),
                        Optional.empty()))
                .toList();
    }

    /** Every installation has the source of its own people, which is set up where the server is started. */
    @Override
    public Map<String, String> withoutFile() {
        return sources.all().stream()
                .filter(Sources.Source::isOwn)
                .collect(Collectors.toMap(one -> Long.toString(one.id()), one -> Sources.PEOPLE));
    }

    @Override
    public boolean keeps(String id, Map<String, String> secrets) {
        return Map.of(PASSWORD, sources.password(Long.parseLong(id))).entrySet().containsAll(secrets.entrySet());
    }

    @Override
    public String add(Change<SourceFile> change) {
        long id = keeping.add(
                change.content().name(),
                change.content().address(),
                change.secrets().getOrDefault(PASSWORD, ""),
                change.who());
        change.later().accept(() -> sources.test(id));
        return Long.toString(id);
    }

    @Override
    public void change(String id, Change<SourceFile> change) {
        long number = Long.parseLong(id);
        keeping.change(
                number,
                change.content().name(),
                change.content().address(),
                Optional.ofNullable(change.secrets().get(PASSWORD)),
                change.who());
        change.later().accept(() -> sources.test(number));
    }

    @Override
    public void remove(String id, String who) {
        archive.archive(Archivable.SOURCE, id, who);
    }
}

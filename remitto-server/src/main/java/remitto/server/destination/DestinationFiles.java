package remitto.server.destination;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import remitto.core.file.FileLayout;
import remitto.server.archive.Archivable;
import remitto.server.archive.Archive;
import remitto.server.definition.DefinitionKind;
import remitto.server.platform.Problem;

/** Destinations as files, without their secrets, with the layouts of the files that they take. */
@Component
class DestinationFiles implements DefinitionKind<DestinationFiles.DestinationFile> {
    private final Destinations destinations;
    private final DestinationKeeping keeping;
    private final DestinationTest test;
    private final FileLayouts layouts;
    private final FileLaying laying;
    private final Archive archive;

    DestinationFiles(
            Destinations destinations,
            DestinationKeeping keeping,
            DestinationTest test,
            FileLayouts layouts,
            FileLaying laying,
            Archive archive) {
        this.destinations = destinations;
        this.keeping = keeping;
        this.test = test;
        this.layouts = layouts;
        this.laying = laying;
        this.archive = archive;
    }

    /**
     * A destination.
     *
     * @param settings of its connection that are no secrets, by the names its profile gives them
     * @param signIn the way to sign in; absent for the first that the profile has
     * @param files layouts of the files it takes
     */
    record DestinationFile(
            String name,
            String profile,
            Map<String, String> settings,
            Optional<String> signIn,
            List<FileLayout> files) {
        DestinationFile {
            settings = Map.copyOf(settings);
            files = List.copyOf(files);
        }
    }

    @Override
    public Form<DestinationFile> form() {
        return new Form<>("destination", "destinations", DestinationFile.class, 20, false);
    }

    @Override
    public List<Kept<DestinationFile>> all() {
        return destinations.all().stream()
                .map(one -> new Kept<>(
                        Long.toString(one.id()),
                        one.name(),
                        new DestinationFile(
                                one.name(),
                                one.profile(),
                                one.settings(),
                                Optional.of(one.signIn()).filter(way -> !way.isEmpty()),
                                layouts.of(one.id())),
                        Optional.<DestinationFile>empty()))
                .toList();
    }

    @Override
    public boolean keeps(String id, Map<String, String> secrets) {
        return destinations.secrets(Long.parseLong(id)).entrySet().containsAll(secrets.entrySet());
    }

    @Override
    public String add(Change<DestinationFile> change) {
        long id = keeping.add(wanted(change), change.content().profile(), change.who());
        lay(id, change);
        change.later().accept(() -> test.run(id));
        return Long.toString(id);
    }

    @Override
    public void change(String id, Change<DestinationFile> change) {
        long number = Long.parseLong(id);
        if (!destinations.get(number).profile().equals(change.content().profile())) {
            throw Problem.conflict("A destination keeps its profile; connect another destination.");
        }
        keeping.change(number, wanted(change), change.who());
        lay(number, change);
        change.later().accept(() -> test.run(number));
    }

    private static Destinations.Wanted wanted(Change<DestinationFile> change) {
        Map<String, String> settings = new HashMap<>(change.content().settings());
        settings.putAll(change.secrets());
        return new Destinations.Wanted(
                change.content().name().strip(),
                settings,
                change.content().signIn().orElse(""),
                false);
    }

    private void lay(long id, Change<DestinationFile> change) {
        List<FileLayout> before = layouts.of(id);
        List<FileLayout> wanted = change.content().files();
        Set<String> names = wanted.stream().map(FileLayout::name).collect(Collectors.toSet());
        before.stream()
                .map(FileLayout::name)
                .filter(name -> !names.contains(name))
                .forEach(name -> laying.remove(id, name, change.who()));
        wanted.stream()
                .filter(layout -> !before.contains(layout))
                .forEach(layout -> laying.layOut(id, layout, change.who()));
    }

    @Override
    public void remove(String id, String who) {
        archive.archive(Archivable.DESTINATION, id, who);
    }
}

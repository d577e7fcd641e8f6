package remitto.server.crosswalk;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.shaper.CrosswalkTable;
import remitto.server.archive.Archivable;
import remitto.server.archive.Archive;
import remitto.server.definition.DefinitionKind;
import remitto.server.definition.DefinitionPlan;

/** Crosswalks as files. */
@Component
class CrosswalkFiles implements DefinitionKind<CrosswalkFiles.CrosswalkFile> {
    private final Crosswalks crosswalks;
    private final CrosswalkKeeping keeping;
    private final Archive archive;

    CrosswalkFiles(Crosswalks crosswalks, CrosswalkKeeping keeping, Archive archive) {
        this.crosswalks = crosswalks;
        this.keeping = keeping;
        this.archive = archive;
    }

    /** A crosswalk: what each of our words is called elsewhere. */
    record CrosswalkFile(String name, String description, List<CrosswalkTable.Pair> entries) {
        CrosswalkFile {
            entries = List.copyOf(entries);
        }
    }

    @Override
    public Form<CrosswalkFile> form() {
        return new Form<>("crosswalk", "crosswalks", CrosswalkFile.class, 30, true);
    }

    @Override
    public List<Kept<CrosswalkFile>> all() {
        return crosswalks.all().stream()
                .map(one -> new Kept<>(
                        Long.toString(one.id()),
                        one.name(),
                        new CrosswalkFile(one.name(), one.description(), one.entries()),
                        one.liveVersion()
                                .map(live -> new CrosswalkFile(
                                        one.name(), one.description(), crosswalks.version(one.id(), live)))))
                .toList();
    }

    @Override
    public String add(Change<CrosswalkFile> change) {
        return Long.toString(keeping.add(wanted(change.content()), change.who()));
    }

    @Override
    public void change(String id, Change<CrosswalkFile> change) {
        long number = Long.parseLong(id);
        keeping.save(
                number, crosswalks.get(number).latestVersion(), wanted(change.content()), change.who(), change.note());
    }

    private static CrosswalkKeeping.Wanted wanted(CrosswalkFile file) {
        return new CrosswalkKeeping.Wanted(file.name(), file.description(), file.entries());
    }

    @Override
    public Optional<DefinitionPlan.EffectQuestion> effect(String id, CrosswalkFile content) {
        return Optional.of(new DefinitionPlan.EffectQuestion(
                "/api/crosswalks/" + id + "/what-if", Map.of("entries", content.entries())));
    }

    @Override
    public void putInService(String id, Change<CrosswalkFile> change) {
        Crosswalks.Crosswalk now = crosswalks.get(Long.parseLong(id));
        if (!now.liveVersion().filter(live -> live == now.latestVersion()).isPresent()) {
            keeping.putInService(now.id(), now.latestVersion(), change.who());
        }
    }

    @Override
    public void remove(String id, String who) {
        archive.archive(Archivable.CROSSWALK, id, who);
    }
}

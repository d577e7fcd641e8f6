package remitto.server.measure;

import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.audience.Derivation;
import remitto.server.definition.DefinitionKind;
import remitto.server.people.EntityType;

/** Measures as files. */
@Component
class MeasureFiles implements DefinitionKind<MeasureFiles.MeasureFile> {
    private final Measures measures;
    private final MeasureKeeping keeping;
    private final MeasureKeeper keeper;

    MeasureFiles(Measures measures, MeasureKeeping keeping, MeasureKeeper keeper) {
        this.measures = measures;
        this.keeping = keeping;
        this.keeper = keeper;
    }

    /** A measure. Its name stays, since audiences and routes speak of it. */
    record MeasureFile(String name, EntityType entityType, Derivation derivation) {}

    @Override
    public Form<MeasureFile> form() {
        return new Form<>("measure", "measures", MeasureFile.class, 80, false);
    }

    /** Scores and expressions speak of other measures. */
    @Override
    public boolean speaksByName() {
        return true;
    }

    @Override
    public List<Kept<MeasureFile>> all() {
        return measures.all().stream()
                .map(one -> new Kept<>(
                        Long.toString(one.id()),
                        one.name(),
                        new MeasureFile(one.name(), one.entityType(), one.derivation()),
                        Optional.<MeasureFile>empty()))
                .toList();
    }

    @Override
    public String add(Change<MeasureFile> change) {
        long id = keeping.add(request(change.content()), change.who());
        change.later().accept(() -> keeper.refresh(measures.get(id), true));
        return Long.toString(id);
    }

    @Override
    public void change(String id, Change<MeasureFile> change) {
        long number = Long.parseLong(id);
        keeping.change(number, request(change.content()), change.who());
        change.later().accept(() -> keeper.refresh(measures.get(number), true));
    }

    private static Measures.MeasureRequest request(MeasureFile file) {
        return new Measures.MeasureRequest(file.name(), file.entityType(), file.derivation());
    }

    @Override
    public void remove(String id, String who) {
        keeping.remove(Long.parseLong(id), who);
    }
}

package remitto.server.measure;

import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;
import remitto.core.audience.Derivation;
import remitto.core.audience.Vocabulary;
import remitto.server.event.EventSets;
import remitto.server.event.References;
import remitto.server.journal.Journal;
import remitto.server.people.person.PersonFacts;
import remitto.server.platform.Problem;

/** Saving measures and removing them: checked and written in the journal, by whatever way somebody asks for it. */
@Component
class MeasureKeeping {
    private final Measures measures;
    private final MeasureKeeper keeper;
    private final Population population;
    private final PersonFacts facts;
    private final References references;
    private final Journal journal;

    MeasureKeeping(
            Measures measures,
            MeasureKeeper keeper,
            Population population,
            PersonFacts facts,
            References references,
            Journal journal) {
        this.measures = measures;
        this.keeper = keeper;
        this.population = population;
        this.facts = facts;
        this.references = references;
        this.journal = journal;
    }

    /** @return the measure, which nobody has a value of before it is worked out */
    long add(Measures.MeasureRequest request, String who) {
        if (population.words(request.entityType()).attributes().containsKey(request.name())) {
            throw Problem.conflict("An attribute or measure already has the name " + request.name() + ".");
        }
        checkZone(request.derivation());
        long id = measures.add(request, sqlType(request, Long.MAX_VALUE), who);
        saved(id, who, "added measure");
        return id;
    }

    /** The name stays: audiences and routes speak of it. Its values are to be worked out again. */
    void change(long id, Measures.MeasureRequest request, String who) {
        Measures.PersonMeasure before = measures.get(id);
        if (!before.name().equals(request.name()) || before.entityType() != request.entityType()) {
            throw Problem.invalid("Audiences and routes speak of " + before.name() + "; its name stays.");
        }
        checkZone(request.derivation());
        String type = sqlType(request, id);
        facts.dropViews();
        population.dropViews();
        measures.change(id, request.derivation(), type, who);
        saved(id, who, "changed measure");
    }

    /** @throws Problem naming what uses it */
    void remove(long id, String who) {
        Measures.PersonMeasure measure = measures.get(id);
        List<String> users = new ArrayList<>(references.of("attribute", measure.name()));
        users.addAll(references.of("of", measure.name()));
        if (!users.isEmpty()) {
            throw Problem.conflict(measure.name() + " is used by " + String.join(", ", users) + ".");
        }
        facts.dropViews();
        population.dropViews();
        measures.remove(id);
        population.views();
        facts.refreshViews();
        journal.write(who, "removed measure", new Journal.Subject("measure", id, measure.name()), "");
    }

    private void saved(long id, String who, String what) {
        population.views();
        facts.refreshViews();
        journal.write(
                who, what, new Journal.Subject("measure", id, measures.get(id).name()), "");
    }

    private static void checkZone(Derivation derivation) {
        if (!(derivation instanceof Derivation.OverEvents over)) {
            return;
        }
        try {
            ZoneId.of(over.zone());
        } catch (DateTimeException e) {
            throw Problem.invalid("\"" + over.zone() + "\" is no time zone; write one such as Europe/Oslo.");
        }
    }

    private String sqlType(Measures.MeasureRequest request, long before) {
        Vocabulary words = population.words(request.entityType(), before);
        if (request.derivation() instanceof Derivation.ByExpression computed) {
            MeasureKeeper.compiled(computed.expression(), keeper.columns(request.entityType(), before));
        }
        return EventSets.sqlType(request.derivation().type(words));
    }
}

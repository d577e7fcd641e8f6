package remitto.server.audience;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.audience.AudienceSpec;
import remitto.core.audience.Condition;
import remitto.core.audience.InMemory;
import remitto.core.audience.Judgement;
import remitto.server.measure.Population;
import remitto.server.people.About;
import remitto.server.platform.Problem;
import remitto.server.platform.Questions;

/** Why a person is in an audience or not, line by line, and a few of those who are. */
@Component
class WhyInOrNot {
    private static final int SHOWN = 6;

    private final AudienceQuestions questions;
    private final Population population;
    private final JdbcClient jdbc;
    private final Questions lane;

    WhyInOrNot(AudienceQuestions questions, Population population, JdbcClient jdbc, Questions lane) {
        this.questions = questions;
        this.population = population;
        this.jdbc = jdbc;
        this.lane = lane;
    }

    /**
     * One line for a person.
     *
     * @param holds whether the person meets it
     * @param value that was tested, as people read it; blank where there is none
     */
    record LineAnswer(boolean holds, String value, List<LineAnswer> parts) {}

    /**
     * @param met whether the person meets the condition; one who does can still be held out, or not be among the first
     * @param heldOut whether the hold-out keeps the person apart
     * @param member whether the person would be in the audience
     */
    record Why(
            long personId,
            String label,
            boolean met,
            boolean heldOut,
            boolean member,
            List<LineAnswer> lines,
            Instant at) {}

    Why why(About about, AudienceSpec spec, long person) {
        questions.ask(about, spec);
        StoredFacts facts = new StoredFacts(person, population.words(about), population.storage(about), jdbc);
        String label = jdbc.sql("select label from person where id = ? and about = ?")
                .params(person, about.name())
                .query(String.class)
                .optional()
                .orElseThrow(() -> Problem.notFound((about == About.PERSON ? "person " : "company ") + person));
        if (!facts.exists()) {
            throw Problem.conflict(label + " was joined after people were last looked at; count again first.");
        }
        var now = questions.now(spec);
        Judgement judged = new InMemory(now).judge(spec.condition(), facts);
        List<Judgement> lines = spec.condition() instanceof Condition.AllOf all
                        && !all.conditions().isEmpty()
                ? judged.parts()
                : List.of(judged);
        Optional<Boolean> held = lane.ask(() -> {
            String members = questions.members(about, spec);
            return jdbc.sql("select held_out from (" + members + ") as m where person_id = ?")
                    .param(person)
                    .query(Boolean.class)
                    .optional();
        });
        return new Why(
                person,
                label,
                spec.bySql() ? held.isPresent() : judged.holds(),
                held.orElse(false),
                held.filter(out -> !out).isPresent(),
                spec.bySql()
                        ? List.of()
                        : lines.stream().map(WhyInOrNot::answer).toList(),
                now.instant());
    }

    private static LineAnswer answer(Judgement judgement) {
        return new LineAnswer(
                judgement.holds(),
                judgement.value().display(),
                judgement.parts().stream().map(WhyInOrNot::answer).toList());
    }

    /** What a condition asked of somebody, and what it found; a day or number as text. */
    record AskedValue(String name, String value) {}

    /** @param values that the condition speaks of, in its order */
    record TypicalMember(long personId, String label, List<AskedValue> values) {}

    /** Some members, the same for the same audience. */
    List<TypicalMember> examples(About about, AudienceSpec spec) {
        questions.ask(about, spec);
        return lane.ask(() -> {
            var words = population.words(about);
            var storage = population.storage(about);
            InMemory memory = new InMemory(questions.now(spec));
            List<TypicalMember> members = new ArrayList<>();
            jdbc.sql("select p.person_id, p.label from " + storage.people() + " p join ("
                            + questions.members(about, spec)
                            + ") m on m.person_id = p.person_id where not m.held_out"
                            + " order by hashint8(p.person_id), p.person_id limit " + SHOWN)
                    .query((row, number) -> Map.entry(row.getLong("person_id"), row.getString("label")))
                    .list()
                    .forEach(one -> {
                        StoredFacts facts = new StoredFacts(one.getKey(), words, storage, jdbc);
                        Set<AskedValue> values = new LinkedHashSet<>();
                        spec.best()
                                .ifPresent(best -> values.add(new AskedValue(
                                        best.attribute(),
                                        facts.attribute(best.attribute()).display())));
                        if (!spec.bySql()) {
                            asked(memory.judge(spec.condition(), facts), values);
                        }
                        members.add(new TypicalMember(one.getKey(), one.getValue(), List.copyOf(values)));
                    });
            return members;
        });
    }

    private static void asked(Judgement judgement, Set<AskedValue> into) {
        judgement.parts().forEach(part -> asked(part, into));
        String value = judgement.value().display();
        if (judgement.condition() instanceof Condition.AttributeHolds attribute) {
            into.add(new AskedValue(attribute.attribute(), value));
        } else if (judgement.condition() instanceof Condition.MeasureHolds measured && !value.equals("0")) {
            into.add(new AskedValue(measured.measure().of().events(), value));
        }
    }
}

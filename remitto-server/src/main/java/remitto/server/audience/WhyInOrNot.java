package remitto.server.audience;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.audience.AudienceSpec;
import remitto.core.audience.Condition;
import remitto.core.audience.InMemory;
import remitto.core.audience.Judgement;
import remitto.server.journal.Journal;
import remitto.server.journal.Looks;
import remitto.server.masking.PersonalValues;
import remitto.server.measure.Population;
import remitto.server.people.EntityType;
import remitto.server.people.person.PersonFacts;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.platform.Questions;

/** Why a person is in an audience or not, line by line, and a few of those who are. */
@Component
class WhyInOrNot {
    private static final int SHOWN = 6;

    private final Looks looks;
    private final PersonFacts personFacts;
    private final PersonalValues values;
    private final AudienceQuestions questions;
    private final Population population;
    private final JdbcClient jdbc;
    private final Questions lane;

    WhyInOrNot(
            Looks looks,
            PersonFacts personFacts,
            PersonalValues values,
            AudienceQuestions questions,
            Population population,
            JdbcClient jdbc,
            Questions lane) {
        this.looks = looks;
        this.personFacts = personFacts;
        this.values = values;
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
    record LineAnswer(boolean holds, @Personal String value, List<LineAnswer> parts) {}

    /**
     * Why a person is in an audience or not.
     *
     * @param met whether the person meets the condition; one who does can still be in the control group, or not be among the first
     * @param inControlGroup whether the person is in the control group
     * @param member whether the person would be in the audience
     */
    record MembershipAnswer(
            long personId,
            @Personal String label,
            boolean met,
            boolean inControlGroup,
            boolean member,
            List<LineAnswer> lines,
            Instant at) {}

    MembershipAnswer why(EntityType entityType, AudienceSpec spec, long person) {
        questions.ask(entityType, spec);
        StoredFacts facts = new StoredFacts(person, population.words(entityType), population.storage(entityType), jdbc);
        String label = jdbc.sql("select label from person where id = ? and about = ?")
                .params(person, entityType.name())
                .query(String.class)
                .optional()
                .orElseThrow(
                        () -> Problem.notFound((entityType == EntityType.PERSON ? "person " : "company ") + person));
        if (!facts.exists()) {
            throw Problem.conflict(label + " was matched after the latest count. Count again first.");
        }
        looks.at("looked at person", new Journal.Subject("person", person, "person " + person));
        Set<String> sensitive = sensitive(entityType);
        var now = questions.now(spec);
        Judgement judged = new InMemory(now).judge(spec.condition(), facts);
        List<Judgement> lines = spec.condition() instanceof Condition.AllOf all
                        && !all.conditions().isEmpty()
                ? judged.parts()
                : List.of(judged);
        Optional<Boolean> held = lane.ask(() -> {
            String members = questions.members(entityType, spec);
            return jdbc.sql("select held_out from (" + members + ") as m where person_id = ?")
                    .param(person)
                    .query(Boolean.class)
                    .optional();
        });
        return new MembershipAnswer(
                person,
                label,
                spec.bySql() ? held.isPresent() : judged.holds(),
                held.orElse(false),
                held.filter(out -> !out).isPresent(),
                spec.bySql()
                        ? List.of()
                        : lines.stream().map(line -> answer(line, sensitive)).toList(),
                now.instant());
    }

    private LineAnswer answer(Judgement judgement, Set<String> sensitive) {
        return new LineAnswer(
                judgement.holds(),
                shown(judgement, sensitive),
                judgement.parts().stream().map(part -> answer(part, sensitive)).toList());
    }

    private String shown(Judgement judgement, Set<String> sensitive) {
        String value = judgement.value().display();
        return judgement.condition() instanceof Condition.AttributeHolds attribute
                        && sensitive.contains(attribute.attribute())
                ? values.sensitive(value)
                : value;
    }

    private Set<String> sensitive(EntityType entityType) {
        return personFacts.kept(entityType).stream()
                .filter(PersonFacts.Kept::sensitive)
                .map(PersonFacts.Kept::name)
                .collect(Collectors.toSet());
    }

    /** What a condition asked of somebody, and what it found; a day or number as text. */
    record AskedValue(String name, @Personal String value) {}

    /**
     * A person who matches a definition.
     *
     * @param values that the condition speaks of, in its order
     */
    record TypicalMember(long personId, @Personal String label, List<AskedValue> values) {}

    /** Some members, the same for the same audience. */
    List<TypicalMember> examples(EntityType entityType, AudienceSpec spec) {
        questions.ask(entityType, spec);
        return lane.ask(() -> {
            Set<String> sensitive = sensitive(entityType);
            var words = population.words(entityType);
            var storage = population.storage(entityType);
            InMemory memory = new InMemory(questions.now(spec));
            List<TypicalMember> members = new ArrayList<>();
            jdbc.sql("select p.person_id, p.label from " + storage.people() + " p join ("
                            + questions.members(entityType, spec)
                            + ") m on m.person_id = p.person_id where not m.held_out"
                            + " order by hashint8(p.person_id), p.person_id limit " + SHOWN)
                    .query((row, number) -> Map.entry(row.getLong("person_id"), row.getString("label")))
                    .list()
                    .forEach(one -> {
                        StoredFacts facts = new StoredFacts(one.getKey(), words, storage, jdbc);
                        Set<AskedValue> asked = new LinkedHashSet<>();
                        spec.best()
                                .ifPresent(best -> asked.add(new AskedValue(
                                        best.attribute(),
                                        facts.attribute(best.attribute()).display())));
                        if (!spec.bySql()) {
                            asked(memory.judge(spec.condition(), facts), asked, sensitive);
                        }
                        members.add(new TypicalMember(one.getKey(), one.getValue(), List.copyOf(asked)));
                    });
            return members;
        });
    }

    private void asked(Judgement judgement, Set<AskedValue> into, Set<String> sensitive) {
        judgement.parts().forEach(part -> asked(part, into, sensitive));
        String value = shown(judgement, sensitive);
        if (judgement.condition() instanceof Condition.AttributeHolds attribute) {
            into.add(new AskedValue(attribute.attribute(), value));
        } else if (judgement.condition() instanceof Condition.MeasureHolds measured && !value.equals("0")) {
            into.add(new AskedValue(measured.measure().of().events(), value));
        }
    }
}

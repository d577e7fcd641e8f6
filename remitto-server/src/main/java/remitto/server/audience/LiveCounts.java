package remitto.server.audience;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.audience.AudienceSpec;
import remitto.core.audience.Condition;
import remitto.core.audience.SampleMargin;
import remitto.server.measure.Population;
import remitto.server.people.EntityType;
import remitto.server.platform.Questions;

/** Counts while somebody edits: each line by itself, what is left after it, and all in all. Changes nothing. */
@Component
class LiveCounts {
    private final AudienceQuestions questions;
    private final Population population;
    private final JdbcClient jdbc;
    private final Questions lane;

    LiveCounts(AudienceQuestions questions, Population population, JdbcClient jdbc, Questions lane) {
        this.questions = questions;
        this.population = population;
        this.jdbc = jdbc;
        this.lane = lane;
    }

    /**
     * A line of a condition.
     *
     * @param alone who meet it
     * @param left who meet it and all lines above it
     * @param parts of a group: who meet each of its parts
     */
    record LineCount(long alone, long left, List<Long> parts) {}

    /**
     * How many people match a definition.
     *
     * @param people there are in all
     * @param members who would be in the audience, the control group among them
     * @param inControlGroup how many are in the control group
     * @param margin by which a number from a sample may be off, 19 times of 20; absent for an exact count
     */
    record LiveCount(
            long people,
            List<LineCount> lines,
            long members,
            long inControlGroup,
            Optional<Long> margin,
            long millis,
            String sql) {}

    /** @param exact false where a sample will do, if there are so many people that it matters */
    LiveCount count(EntityType entityType, AudienceSpec spec, boolean exact) {
        questions.ask(entityType, spec);
        long start = System.nanoTime();
        return lane.ask(() -> {
            int oneOf = exact || spec.bySql() || entityType != EntityType.PERSON ? 0 : population.oneOf();
            LiveCount count = oneOf > 0 ? estimated(spec) : counted(entityType, spec);
            return new LiveCount(
                    count.people(),
                    count.lines(),
                    count.members(),
                    count.inControlGroup(),
                    count.margin(),
                    TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - start),
                    count.sql());
        });
    }

    private LiveCount counted(EntityType entityType, AudienceSpec spec) {
        String members = questions.members(entityType, spec);
        if (spec.bySql()) {
            long[] counts = counts(members);
            long people = jdbc.sql("select count(*) from "
                            + population.storage(entityType).people())
                    .query(Long.class)
                    .single();
            return new LiveCount(people, List.of(), counts[0], counts[1], Optional.empty(), 0, spec.sql());
        }
        List<Long> numbers = numbers(questions.over(entityType, spec).counts(asked(spec)));
        long met = numbers.get(numbers.size() - 1);
        long[] counts =
                spec.best().isPresent() || spec.controlGroup().share() > 0 ? counts(members) : new long[] {met, 0};
        return new LiveCount(
                numbers.get(0), lines(spec, numbers, 1), counts[0], counts[1], Optional.empty(), 0, members);
    }

    private LiveCount estimated(AudienceSpec spec) {
        List<Long> numbers =
                numbers(questions.overSample(EntityType.PERSON, spec).counts(asked(spec)));
        long people = jdbc.sql("select count(*) from audience.people")
                .query(Long.class)
                .single();
        long sampled = numbers.get(0);
        SampleMargin margin = new SampleMargin(sampled, people);
        long met = numbers.get(numbers.size() - 1);
        long members = spec.best()
                .map(best -> Math.min(best.people(), margin.estimate(met)))
                .orElse(margin.estimate(met));
        return new LiveCount(
                people,
                lines(spec, numbers.stream().map(margin::estimate).toList(), 1),
                members,
                members * spec.controlGroup().share() / 10_000,
                Optional.of(margin.of(met)),
                0,
                questions.over(EntityType.PERSON, spec).members(spec));
    }

    /** Each line, what is left after each, the parts of each group, and in the end the whole condition. */
    private static List<Condition> asked(AudienceSpec spec) {
        List<Condition> asked = new ArrayList<>();
        List<Condition> lines = AudienceQuestions.lines(spec.condition());
        for (int i = 0; i < lines.size(); i++) {
            asked.add(lines.get(i));
            asked.add(new Condition.AllOf(lines.subList(0, i + 1)));
            asked.addAll(parts(lines.get(i)));
        }
        asked.add(spec.condition());
        return asked;
    }

    private static List<LineCount> lines(AudienceSpec spec, List<Long> numbers, int first) {
        List<LineCount> counts = new ArrayList<>();
        int at = first;
        for (Condition line : AudienceQuestions.lines(spec.condition())) {
            int parts = parts(line).size();
            counts.add(new LineCount(numbers.get(at), numbers.get(at + 1), numbers.subList(at + 2, at + 2 + parts)));
            at += 2 + parts;
        }
        return counts;
    }

    private static List<Condition> parts(Condition line) {
        if (line instanceof Condition.AnyOf any) {
            return any.conditions();
        } else if (line instanceof Condition.AllOf all) {
            return all.conditions();
        } else if (line instanceof Condition.Unless not) {
            return parts(not.condition());
        }
        return List.of();
    }

    private List<Long> numbers(String sql) {
        return jdbc.sql(sql)
                .query((row, number) -> {
                    List<Long> numbers = new ArrayList<>();
                    for (int i = 1; i <= row.getMetaData().getColumnCount(); i++) {
                        numbers.add(row.getLong(i));
                    }
                    return numbers;
                })
                .single();
    }

    private long[] counts(String members) {
        return jdbc.sql("select count(*) as people, count(*) filter (where held_out) as held_out from (" + members
                        + ") as m")
                .query((row, number) -> new long[] {row.getLong("people"), row.getLong("held_out")})
                .single();
    }
}

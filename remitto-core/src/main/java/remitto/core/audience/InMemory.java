package remitto.core.audience;

import java.time.Instant;
import java.util.List;
import remitto.core.value.Value;

/** Judges conditions for one person at a time, in memory, telling why. Agrees with the SQL of the same condition. */
public final class InMemory {
    private final Window.Now now;
    private final MeasureInMemory measures;

    public InMemory(Window.Now now) {
        this.now = now;
        this.measures = new MeasureInMemory(now);
    }

    public boolean holds(Condition condition, Facts facts) {
        return judge(condition, facts).holds();
    }

    /** The value of a measure for a person. */
    public Value measure(Measure measure, Facts facts) {
        return measures.of(measure, facts.events(measure.of().events()));
    }

    public Judgement judge(Condition condition, Facts facts) {
        if (condition instanceof Condition.Everyone) {
            return plain(condition, true);
        } else if (condition instanceof Condition.AllOf all) {
            List<Judgement> parts = parts(all.conditions(), facts);
            return over(condition, parts.stream().allMatch(Judgement::holds), parts);
        } else if (condition instanceof Condition.AnyOf any) {
            List<Judgement> parts = parts(any.conditions(), facts);
            return over(condition, parts.stream().anyMatch(Judgement::holds), parts);
        } else if (condition instanceof Condition.Unless not) {
            Judgement part = judge(not.condition(), facts);
            return over(condition, !part.holds(), List.of(part));
        } else if (condition instanceof Condition.AttributeHolds attribute) {
            Value value = facts.attribute(attribute.attribute());
            return new Judgement(condition, attribute.test().holds(value, now), value, List.of());
        } else if (condition instanceof Condition.MeasureHolds measured) {
            Value value = measure(measured.measure(), facts);
            return new Judgement(condition, measured.test().holds(value, now), value, List.of());
        } else if (condition instanceof Condition.EventThen followed) {
            return followed(followed, facts);
        } else if (condition instanceof Condition.InAudience audience) {
            return plain(condition, facts.isMember(audience.audience()));
        } else if (condition instanceof Condition.Agreed agreed) {
            Condition.Answer answer = facts.answer(agreed.purpose(), agreed.channel());
            return new Judgement(condition, answer == agreed.answer(), Value.text(words(answer)), List.of());
        } else if (condition instanceof Condition.RecordIn dataset) {
            return plain(condition, facts.hasRecordIn(dataset.dataset()));
        } else if (condition instanceof Condition.SentTo sent) {
            return plain(condition, facts.wasSent(sent.route(), sent.state()));
        }
        throw new AssertionError(condition);
    }

    private static String words(Condition.Answer answer) {
        return switch (answer) {
            case YES -> "yes";
            case NO -> "no";
            case NOT_ASKED -> "not asked";
        };
    }

    /** The value is the moment of the first event that was followed, or not, as asked. */
    private Judgement followed(Condition.EventThen condition, Facts facts) {
        List<Facts.Event> thens = facts.events(condition.then().events()).stream()
                .filter(event -> measures.meets(event, condition.then().where()))
                .toList();
        for (Facts.Event first :
                measures.counting(facts.events(condition.first().events()), condition.first(), condition.window())) {
            Instant end =
                    now.startOf(first.at().atZone(now.zone()).toLocalDate().plusDays(condition.days() + 1L));
            boolean came = thens.stream()
                    .anyMatch(then -> then.at().isAfter(first.at()) && then.at().isBefore(end));
            boolean over = !end.isAfter(now.instant());
            if (condition.none() ? !came && over : came) {
                return new Judgement(condition, true, new Value.Moment(first.at()), List.of());
            }
        }
        return plain(condition, false);
    }

    private List<Judgement> parts(List<Condition> conditions, Facts facts) {
        return conditions.stream().map(one -> judge(one, facts)).toList();
    }

    private static Judgement plain(Condition condition, boolean holds) {
        return new Judgement(condition, holds, Value.EMPTY, List.of());
    }

    private static Judgement over(Condition condition, boolean holds, List<Judgement> parts) {
        return new Judgement(condition, holds, Value.EMPTY, parts);
    }
}

package remitto.core.audience;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.math.BigDecimal;
import java.util.List;
import remitto.core.dataset.ColumnType;

/** How a value that is kept for every person comes about. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Derivation.OverEvents.class, name = "events"),
    @JsonSubTypes.Type(value = Derivation.Score.class, name = "score"),
    @JsonSubTypes.Type(value = Derivation.ByExpression.class, name = "computed")
})
public sealed interface Derivation {
    /** @throws AudienceFault if it speaks of what does not exist, or asks it what it cannot tell */
    ColumnType type(Vocabulary words);

    /**
     * Over a person's events.
     *
     * @param zone in which its days are counted
     * @param steps bounds, ascending: besides the value itself, the highest bound it reaches can be sent, which changes only
     *     when a bound is crossed
     */
    record OverEvents(Measure measure, String zone, List<BigDecimal> steps) implements Derivation {
        public OverEvents {
            steps = List.copyOf(steps);
            for (int i = 1; i < steps.size(); i++) {
                if (steps.get(i - 1).compareTo(steps.get(i)) >= 0) {
                    throw new AudienceFault(
                            "Bounds go up: " + steps.get(i - 1) + " is not below " + steps.get(i) + ".");
                }
            }
        }

        @Override
        public ColumnType type(Vocabulary words) {
            ColumnType type = measure.type(words);
            if (!steps.isEmpty() && type != ColumnType.INTEGER && type != ColumnType.DECIMAL) {
                throw new AudienceFault("Bounds are for numbers; this is " + TypeWords.of(type) + ".");
            }
            return type;
        }
    }

    /**
     * The place of a person's value among all that have one, in bands of as equal size as ties allow: 1 is the worst band.
     * Equal values share a band. With no ties these are the quantiles that recency, frequency and monetary value are scored by.
     */
    record Score(String of, int bands, boolean largestIsBest) implements Derivation {
        public Score {
            if (bands < 2 || bands > 100) {
                throw new AudienceFault("Bands of a score: 2 to 100, not " + bands + ".");
            }
        }

        @Override
        public ColumnType type(Vocabulary words) {
            ColumnType type = words.attribute(of);
            if (type == ColumnType.TEXT || type == ColumnType.BOOLEAN) {
                throw new AudienceFault(
                        "\"" + of + "\" is " + TypeWords.of(type) + "; a score is over numbers or days.");
            }
            return ColumnType.INTEGER;
        }

        /** The band of a value that so many of all are no better than, itself among them. */
        public int band(long noBetter, long all) {
            return (int) ((bands * noBetter + all - 1) / all);
        }
    }

    /** A CEL expression over the person's other attributes, of a stated type. */
    record ByExpression(String expression, ColumnType gives) implements Derivation {
        @Override
        public ColumnType type(Vocabulary words) {
            return gives;
        }
    }
}

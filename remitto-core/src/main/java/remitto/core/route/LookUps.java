package remitto.core.route;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.value.Value;

/** What lies beyond a row: records of other routes, rows of other datasets, records there. Looked up for many at once. */
public interface LookUps {
    /** How long an id that was found in the destination counts before it is looked up again; our choice. */
    Duration THERE_AGAIN_AFTER = Duration.ofDays(1);

    /** What a rule asks for. */
    sealed interface Wanted {
        /** The value that is looked for. */
        String key();

        /** A record of another route, by its key in that route's dataset. */
        record RecordOfRoute(long route, String key) implements Wanted {}

        /** Rows of another dataset. */
        record RowsOf(DatasetLookUp where, String key) implements Wanted {}

        /** Records of an object in the destination, by the value of a field. */
        record RecordsThere(String object, String by, String key) implements Wanted {}
    }

    /** What was found. */
    sealed interface Found {
        /** None, one or many; the first first. */
        record Values(List<Value> values) implements Found {
            public Values {
                values = List.copyOf(values);
            }
        }

        /** Not there yet, with the reason in words. */
        record Waits(String reason) implements Found {}
    }

    Found find(Wanted wanted);

    /** Knows of nothing. */
    LookUps NONE = wanted -> wanted instanceof Wanted.RecordOfRoute
            ? new Found.Waits("Nothing has been sent yet for " + wanted.key())
            : new Found.Values(List.of());

    static LookUps of(Map<Wanted, Found> found) {
        Map<Wanted, Found> kept = Map.copyOf(found);
        return wanted -> kept.containsKey(wanted) ? kept.get(wanted) : NONE.find(wanted);
    }
}

package remitto.core.receiver;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.List;

/** What it means that there are several calls. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = CallsMean.EveryCallAdds.class, name = "every-call-adds"),
    @JsonSubTypes.Type(value = CallsMean.LatestPerKey.class, name = "latest-per-key")
})
public sealed interface CallsMean {
    /** Every call is rows of its own, as events are. */
    record EveryCallAdds() implements CallsMean {}

    /**
     * The latest row of every key. A call that is older than what is known of a key changes nothing of it.
     *
     * @param keys columns that tell records apart
     * @param orderBy column that tells which call is later; blank to take them as they come in
     * @param change column that says what happened to the record; blank where every call adds or changes
     * @param removes words of that column that remove the record, in whatever letters
     */
    record LatestPerKey(List<String> keys, String orderBy, String change, List<String> removes) implements CallsMean {
        public LatestPerKey {
            keys = List.copyOf(keys);
            removes = List.copyOf(removes);
        }
    }
}

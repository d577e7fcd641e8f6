package remitto.core.fileset;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.List;

/** What it means that there are several files. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = SeveralFiles.EachAdds.class, name = "each-adds"),
    @JsonSubTypes.Type(value = SeveralFiles.NewestIsWhole.class, name = "newest-is-whole"),
    @JsonSubTypes.Type(value = SeveralFiles.EachHoldsChanges.class, name = "each-holds-changes")
})
public sealed interface SeveralFiles {
    /** The rows of all files together. A file that is replaced takes its former rows with it. */
    record EachAdds() implements SeveralFiles {}

    /** Only the rows of the newest file, by the time it was changed and then by its name. */
    record NewestIsWhole() implements SeveralFiles {}

    /**
     * The newest row of every key, in the order of the files and then of their lines. Files that are older than what is known of a key
     * change nothing of it.
     *
     * @param keys columns that tell records apart
     * @param change column that says what happened to the record; blank where every row adds or changes
     * @param removes words of that column that remove the record, in whatever letters
     */
    record EachHoldsChanges(List<String> keys, String change, List<String> removes) implements SeveralFiles {
        public EachHoldsChanges {
            keys = List.copyOf(keys);
            removes = List.copyOf(removes);
        }
    }
}

package remitto.core.file;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.Optional;
import remitto.core.manifest.Verdict;

/** Which records a file holds. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = FileContent.Everybody.class, name = "everybody"),
    @JsonSubTypes.Type(value = FileContent.Changes.class, name = "changes")
})
public sealed interface FileContent {
    /** Every record that belongs there after the run; whoever left is not in it. */
    record Everybody() implements FileContent {}

    /**
     * What changed since the file before, each row with all its columns; of a removed one the last values that were sent.
     *
     * @param column that says what became of the record
     */
    record Changes(String column, String added, String changed, String removed) implements FileContent {
        public Changes {
            if (column.isBlank() || added.isBlank() || changed.isBlank() || removed.isBlank()) {
                throw new IllegalArgumentException(
                        "Enter the column with the kind of change and its values for added, changed and removed.");
            }
            if (added.equals(removed) || changed.equals(removed)) {
                throw new IllegalArgumentException("Removed records need a value of their own.");
            }
        }

        public String word(Verdict verdict) {
            return switch (verdict) {
                case ADDED -> added;
                case REMOVED -> removed;
                default -> changed;
            };
        }
    }

    default Optional<Changes> changes() {
        return this instanceof Changes changes ? Optional.of(changes) : Optional.empty();
    }
}

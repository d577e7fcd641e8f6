package remitto.server.definition;

import java.util.List;
import java.util.Optional;

/**
 * What applying files would change here.
 *
 * @param same files that say what is here already
 * @param faults why they cannot be applied; nothing can while there is one
 * @param state stands for all definitions as they are now; another as soon as one of them changes
 */
public record DefinitionPlan(List<Change> changes, int same, List<DefinitionFault> faults, String state) {
    public DefinitionPlan {
        changes = List.copyOf(changes);
        faults = List.copyOf(faults);
    }

    /** What becomes of a definition. */
    public enum Act {
        /** It is new here. */
        ADD,
        /** It is here and says something else. */
        CHANGE,
        /** It is saved as the file says, and goes into service. */
        PUT_IN_SERVICE,
        /** It has no file, and is removed. */
        REMOVE,
        /** It has no file, and stays all the same. */
        LEAVE
    }

    /**
     * A what-if to begin, with {@code POST}.
     *
     * @param path of the operation
     * @param body to send
     */
    public record EffectQuestion(String path, Object body) {}

    /**
     * One definition that differs.
     *
     * @param path of its file, or of the one it would have
     * @param name what it is called
     * @param differences from what is here, a line each
     * @param atOnce whether the change counts as soon as it is saved, since this kind has no versions
     * @param effect what to ask to see what the change would make of the rows; absent where it speaks of what is not here yet
     */
    public record Change(
            String path,
            String kind,
            String name,
            Act act,
            List<String> differences,
            boolean atOnce,
            Optional<EffectQuestion> effect) {
        public Change {
            differences = List.copyOf(differences);
        }
    }
}

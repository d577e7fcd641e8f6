package remitto.core.approval;

import java.util.List;
import java.util.Optional;

/** The rule that nobody lets pass alone what they brought about: two people look at whatever a guard stops. */
public final class FourEyes {
    private FourEyes() {}

    /**
     * Somebody's part in what was stopped.
     *
     * @param who the id of their account
     * @param what they changed, as in "a field rule"
     */
    public record Part(String who, String what) {}

    /**
     * Why somebody may not approve; empty when they may.
     *
     * @param mayApprove whether their role lets them approve at all
     * @param parts what was changed since the last manifest that somebody approved, or ever when none was
     */
    public static Optional<String> against(String who, boolean mayApprove, List<Part> parts) {
        if (!mayApprove) {
            return Optional.of("A guard stopped this. An approver decides about it.");
        }
        return parts.stream()
                .filter(part -> part.who().equals(who))
                .findFirst()
                .map(part -> "You " + part.what() + " since this was last approved, so somebody else approves it.");
    }
}

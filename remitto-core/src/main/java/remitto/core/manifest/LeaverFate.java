package remitto.core.manifest;

import java.util.Optional;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.route.Leavers;

/** What becomes of a record that a route knows and its dataset no longer holds. */
public sealed interface LeaverFate {
    /** It is gone there as well, so that its binding ends. */
    record GoneThere() implements LeaverFate {}

    /** Nothing is done about it, now or later. */
    record NothingToDo() implements LeaverFate {}

    /** It may not have left at all, or somebody has to decide. */
    record Held(Cause cause, String reason) implements LeaverFate {}

    record Goes(Decision decision) implements LeaverFate {}

    /**
     * What is known of one when it is judged.
     *
     * @param there as it stands in the destination; absent when it is not there
     * @param joinedInto another key of the same dataset that it became part of, where the route wants to be told
     * @param otherRoute a route that keeps the same record; blank for none
     * @param keyless rows of this reading that had no key: any of them may be this record
     * @param unread rows of the dataset's files that are held, so that the reading did not give them: any of them may be this record
     */
    record Facts(
            Optional<MatchResult.Matched> there,
            Optional<String> joinedInto,
            String otherRoute,
            long keyless,
            long unread) {}

    static LeaverFate of(Facts facts, Leavers choice, ObjectDescription object) {
        if (facts.there().isEmpty()) {
            return new GoneThere();
        }
        if (facts.joinedInto().isPresent()) {
            return new Held(
                    Cause.of(CauseKind.JOINED), joined(facts.joinedInto().get()));
        }
        Optional<Decision> decision =
                LeaverJudge.judge(choice, object, facts.there().get(), facts.otherRoute());
        if (decision.filter(one -> one.verdict() != Verdict.UNCHANGED).isEmpty()) {
            return new NothingToDo();
        }
        boolean unclear = facts.keyless() > 0 || facts.unread() > 0;
        return unclear && decision.get().verdict() != Verdict.HELD
                ? new Held(Cause.of(CauseKind.LEAVER_UNCLEAR), unclear(facts))
                : new Goes(decision.get());
    }

    private static String joined(String into) {
        return "Its records became part of " + into
                + ", which this route sends as well, so the destination now holds it twice. Merge the two records in the destination,"
                + " or let the route treat this one as left";
    }

    private static String unclear(Facts facts) {
        long rows = facts.keyless() > 0 ? facts.keyless() : facts.unread();
        String why = facts.keyless() > 0
                ? (rows == 1 ? " row has" : " rows have") + " no key"
                : (rows == 1 ? " row" : " rows") + " of its files " + (rows == 1 ? "is" : "are") + " held";
        return "Not in the dataset by its key, but " + rows + why
                + " and may be this record; no record is treated as left until that is fixed";
    }
}

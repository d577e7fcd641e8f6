package remitto.core.manifest;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.run.RunCounts;

/**
 * The steps from people in an audience to people reached, with the reason at each loss. It counts people; its steps always
 * come to the sums of the manifest.
 *
 * @param rungs from the first step down
 * @param elsewhere people who left the audience and are dealt with by the same manifest; they are on no rung
 */
public record ReachLadder(List<LadderStep> rungs, long elsewhere) {
    public enum Step {
        IN_AUDIENCE,
        ALLOWED,
        HAS_ADDRESS,
        COUNTED_ONCE,
        ACCEPTED,
        /** As the destination reports it; by address, so that it is told but not reckoned with. */
        FOUND
    }

    /** Lines of a manifest that are alike, and how many people they are about. */
    public record Tally(Verdict verdict, Cause cause, LineState state, String reason, long people) {}

    /**
     * People lost at a step, for one reason; what is needed to find their lines is with it.
     *
     * @param code the cause, as lines are asked for by it
     */
    public record LadderLoss(String reason, long people, Verdict verdict, String code, LineState state) {}

    /**
     * A step of the reach ladder.
     *
     * @param people who are left after the losses
     */
    public record LadderStep(Step step, long people, List<LadderLoss> losses) {
        public LadderStep {
            losses = List.copyOf(losses);
        }
    }

    public ReachLadder {
        rungs = List.copyOf(rungs);
    }

    /**
     * @param keyField the field by which a person is matched there
     * @param tallies of all lines
     * @param found people the destination says it found; absent where it says nothing
     * @throws IllegalArgumentException if the lines do not come to the sums
     */
    public static ReachLadder of(String keyField, RunCounts counts, List<Tally> tallies, OptionalLong found) {
        Building building = new Building(keyField, counts);
        tallies.forEach(building::take);
        return building.build(found);
    }

    private static final class Building {
        private final String keyField;
        private final RunCounts counts;
        private final List<LadderLoss> notAllowed = new ArrayList<>();
        private final List<LadderLoss> noAddress = new ArrayList<>();
        private final List<LadderLoss> shared = new ArrayList<>();
        private final List<LadderLoss> refused = new ArrayList<>();
        private long leftOutLines;
        private long acknowledged;
        private long leaversUnchanged;
        private long leavers;

        Building(String keyField, RunCounts counts) {
            this.keyField = keyField;
            this.counts = counts;
        }

        void take(Tally tally) {
            if (isElsewhere(tally)) {
                leavers += tally.people();
                leaversUnchanged += tally.verdict() == Verdict.UNCHANGED ? tally.people() : 0;
                return;
            }
            switch (tally.verdict()) {
                case ADDED, CHANGED -> {
                    if (tally.state() == LineState.ACKNOWLEDGED) {
                        acknowledged += tally.people();
                    } else if (tally.state() == LineState.FORBIDDEN) {
                        notAllowed.add(loss(tally, tally.reason()));
                    } else {
                        refused.add(loss(tally, unsent(tally)));
                    }
                }
                case REMOVED -> notAllowed.add(loss(tally, tally.reason()));
                case LEFT_OUT -> {
                    leftOutLines += tally.people();
                    rung(tally.cause()).add(loss(tally, tally.reason()));
                }
                case HELD -> rung(tally.cause()).add(loss(tally, tally.reason()));
                case UNCHANGED -> {}
            }
        }

        private static boolean isElsewhere(Tally tally) {
            return tally.verdict() == Verdict.REMOVED && !tally.cause().is(CauseKind.CONSENT)
                    || loss(tally.cause()) == CauseKind.Loss.ELSEWHERE;
        }

        private static CauseKind.Loss loss(Cause cause) {
            return cause.kind().map(CauseKind::loss).orElse(CauseKind.Loss.NOT_ACCEPTED);
        }

        private List<LadderLoss> rung(Cause cause) {
            return switch (loss(cause)) {
                case NOT_ALLOWED -> notAllowed;
                case NO_ADDRESS -> noAddress;
                case NO_ADDRESS_IF_KEY -> cause.field().equals(keyField) ? noAddress : refused;
                case SHARED -> shared;
                case NOT_ACCEPTED, ELSEWHERE -> refused;
            };
        }

        private static LadderLoss loss(Tally tally, String reason) {
            return new LadderLoss(
                    reason, tally.people(), tally.verdict(), tally.cause().spelled(), tally.state());
        }

        private static String unsent(Tally tally) {
            return switch (tally.state()) {
                case PLANNED -> "not sent yet";
                case SENDING -> "being sent";
                case REFUSED -> "refused by the destination: " + tally.reason();
                case UNKNOWN -> "outcome unknown";
                case MOVED_ON -> "changed in the destination meanwhile, so not sent";
                case CANCELLED -> "kept back when the manifest was approved, or cancelled";
                case NONE, ACKNOWLEDGED, FORBIDDEN -> tally.reason();
            };
        }

        ReachLadder build(OptionalLong found) {
            long quiet = counts.leftOut() - leftOutLines;
            if (quiet > 0) {
                refused.add(new LadderLoss(
                        "left untouched, as this route is set", quiet, Verdict.LEFT_OUT, "", LineState.NONE));
            }
            List<LadderStep> rungs = new ArrayList<>();
            long people = counts.read();
            rungs.add(new LadderStep(Step.IN_AUDIENCE, people, List.of()));
            people = down(rungs, Step.ALLOWED, people, notAllowed);
            people = down(rungs, Step.HAS_ADDRESS, people, noAddress);
            people = down(rungs, Step.COUNTED_ONCE, people, shared);
            people = down(rungs, Step.ACCEPTED, people, refused);
            long accepted = counts.unchanged() - leaversUnchanged + acknowledged;
            if (people != accepted || leavers != counts.leaving()) {
                throw new IllegalArgumentException("the ladder ends at " + people + " people with " + leavers
                        + " leaving, the manifest at " + accepted + " with " + counts.leaving());
            }
            Optional.of(found)
                    .filter(OptionalLong::isPresent)
                    .ifPresent(there -> rungs.add(new LadderStep(Step.FOUND, there.getAsLong(), List.of())));
            return new ReachLadder(rungs, leavers);
        }

        private static long down(List<LadderStep> rungs, Step step, long people, List<LadderLoss> losses) {
            long left = people - losses.stream().mapToLong(LadderLoss::people).sum();
            rungs.add(new LadderStep(step, left, losses));
            return left;
        }
    }
}

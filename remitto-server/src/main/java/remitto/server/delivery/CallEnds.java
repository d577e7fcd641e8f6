package remitto.server.delivery;

import remitto.connect.destination.Destination.CallOutcome;
import remitto.core.delivery.CallEnd;

/** From what a destination tells of a call to what the rules of delivery go by. */
final class CallEnds {
    private CallEnds() {}

    /** @param outcome of a call that was not answered line by line */
    static CallEnd of(CallOutcome outcome) {
        if (outcome instanceof CallOutcome.Throttled throttled) {
            return throttled.retryAfter().<CallEnd>map(CallEnd.AskedToWait::new).orElseGet(CallEnd.Overloaded::new);
        }
        if (outcome instanceof CallOutcome.NotSent notSent) {
            return new CallEnd.NotMade(notSent.reason());
        }
        if (outcome instanceof CallOutcome.Failed failed) {
            return failed.retriable()
                    ? new CallEnd.Unheard(failed.status() + " " + failed.reason())
                    : new CallEnd.Refused(failed.status(), failed.reason());
        }
        if (outcome instanceof CallOutcome.Unknown unknown) {
            return new CallEnd.Unheard(unknown.reason());
        }
        throw new IllegalArgumentException("a call that was answered has an outcome for each line");
    }
}

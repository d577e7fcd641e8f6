package remitto.core.delivery;

import java.time.Duration;

/** How a call ended that did not bring an answer for each of its records. */
public sealed interface CallEnd {
    /** The tool takes nothing now, and says when it will. */
    record AskedToWait(Duration length) implements CallEnd {}

    /** The tool takes nothing now, and does not say until when. */
    record Overloaded() implements CallEnd {}

    /** Nothing left this machine, or nobody answers there. */
    record NotMade(String reason) implements CallEnd {}

    /**
     * The call was refused as a whole, for good.
     *
     * @param status of HTTP
     */
    record Refused(int status, String reason) implements CallEnd {}

    /** No answer that can be believed: what the call asked for may or may not be done. */
    record Unheard(String reason) implements CallEnd {}

    /** Whether it speaks against the tool, as for its circuit. Whoever refuses, or says when to come again, is well. */
    default boolean isAgainstTheTool() {
        return this instanceof Overloaded || this instanceof NotMade || this instanceof Unheard;
    }

    /** In words; for one that is asked to wait there are none. */
    default String why() {
        if (this instanceof NotMade one) {
            return one.reason();
        }
        if (this instanceof Refused one) {
            return one.status() + ": " + one.reason();
        }
        if (this instanceof Unheard one) {
            return one.reason();
        }
        return this instanceof Overloaded ? "it is overloaded and does not say until when" : "";
    }
}

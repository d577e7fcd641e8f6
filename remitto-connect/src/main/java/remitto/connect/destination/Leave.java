package remitto.connect.destination;

/**
 * Whether a call with effect may still be made. It is asked after every wait and immediately before the call: whoever was paused for
 * longer than others wait for them does not go on as if nothing had happened.
 */
@FunctionalInterface
public interface Leave {
    Leave ALWAYS = () -> true;

    boolean holds();
}

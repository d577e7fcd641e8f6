package remitto.core.run;

/** Why a run stopped with lines left to send. */
public enum Suspension {
    NONE,
    /** The destination, or this server, would not go on; a person looks. */
    FAULT,
    /** The destination does not answer; goes on by itself when it does again. */
    CIRCUIT,
    /** The route was paused; prepared again when it is resumed. */
    PAUSED,
    /** The first wave was sent; the rest waits for confirmation. */
    WAVE,
    /** Another process took the run over. */
    LOST
}

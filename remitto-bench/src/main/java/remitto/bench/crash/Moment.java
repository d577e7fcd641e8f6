package remitto.bench.crash;

/** When in a round the blow falls. Each is waited for by what the tools see; a random while is added. */
enum Moment {
    /** A manifest is being prepared. */
    PREPARING(400),
    /** The tool was asked what it holds. */
    LOOKING_UP(300),
    /** The tool was asked for a token since the sending began. */
    SIGNING_IN(60),
    /** The first lines came in. */
    SENDING(600),
    /** Several calls came in, and their answers are being written down. */
    ACKNOWLEDGING(900);

    private final int spread;

    Moment(int spread) {
        this.spread = spread;
    }

    /** Milliseconds that are added at most. */
    int spread() {
        return spread;
    }

    boolean isBeforeSending() {
        return this == PREPARING || this == LOOKING_UP;
    }
}

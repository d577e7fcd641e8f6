package remitto.command;

/** What a command ends with, for whoever started it. Wrong usage ends with 2, as is common. */
final class Exit {
    static final int DONE = 0;
    /** The installation refused, or what was run failed. */
    static final int REFUSED = 1;
    /** Something differs, and it was asked whether anything does. */
    static final int DIFFERS = 3;
    /** The installation does not answer, or does not let the token in. */
    static final int NO_ENTRY = 4;
    /** A person has to do something before it goes on. */
    static final int WAITS = 5;

    private Exit() {}
}

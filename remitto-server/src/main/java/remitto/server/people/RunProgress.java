package remitto.server.people;

/** How far a run is. */
interface RunProgress {
    /** What it does now, in words. */
    void stage(String words);

    /** How many records this stage has dealt with. */
    void done(long records);
}

package remitto.server.people.source;

/** How far a run is. */
public interface RunProgress {
    /** What it does now, in words. */
    void stage(String words);

    /** How many records this stage has dealt with. */
    void done(long records);
}

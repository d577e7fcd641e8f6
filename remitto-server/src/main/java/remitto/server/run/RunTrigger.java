package remitto.server.run;

/** What started a run. */
public enum RunTrigger {
    HAND,
    TIMETABLE,
    /** One record tried on its own. */
    TRIAL
}

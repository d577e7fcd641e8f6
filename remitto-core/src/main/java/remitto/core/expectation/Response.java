package remitto.core.expectation;

/** What happens when an expectation is not met. */
public enum Response {
    /** It is shown. */
    TELL,
    /** It is shown, and routes hold the rows that do not meet it. */
    HOLD_ROWS,
    /** It is shown, manifests of routes wait for approval, and matching keeps people as they are. */
    STOP_ROUTES
}

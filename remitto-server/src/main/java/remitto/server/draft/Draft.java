package remitto.server.draft;

import java.time.Instant;
import java.util.Map;

/**
 * An edit that was not saved yet.
 *
 * @param kind of what is edited
 * @param subject the id of what is edited, or "new"
 * @param title what its editor calls it
 * @param basedOn the version that the edit began from; 0 for something new
 * @param content the edit, as its page sends it
 * @param savedAt when it was last kept, UTC
 */
record Draft(DraftKind kind, String subject, String title, int basedOn, Map<String, Object> content, Instant savedAt) {}

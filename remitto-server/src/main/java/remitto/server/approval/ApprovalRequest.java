package remitto.server.approval;

import java.time.Instant;
import remitto.server.platform.ActorName;

/**
 * Somebody asks for an approval that their own role, or their own part in the matter, does not let them give.
 *
 * @param subjectId the run of the manifest, or the route
 * @param version of the route; 0 for a manifest
 * @param subject what it is about, as people call it
 * @param note what the person says about it; may be blank
 */
public record ApprovalRequest(
        Kind kind,
        long subjectId,
        int version,
        String subject,
        String note,
        @ActorName String askedBy,
        Instant askedAt) {

    /** What is to be approved. */
    public enum Kind {
        /** A manifest that a guard stopped. */
        MANIFEST,
        /** A version of a route that loosens its guards. */
        ROUTE_VERSION
    }
}

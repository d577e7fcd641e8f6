package remitto.server.approval;

import java.security.Principal;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

/** Asking somebody who may approve. */
@RestController
@RequestMapping("/api/approval-requests")
class ApprovalRequestController {
    private static final int LONGEST_NOTE = 500;

    private final ApprovalRequests requests;
    private final Journal journal;

    ApprovalRequestController(ApprovalRequests requests, Journal journal) {
        this.requests = requests;
        this.journal = journal;
    }

    /**
     * A request to be made.
     *
     * @param subjectId the run of the manifest, or the route
     * @param version of the route; 0 for a manifest
     * @param note what to say about it, at most 500 characters; may be blank
     */
    record NewApprovalRequest(ApprovalRequest.Kind kind, long subjectId, int version, String note) {}

    /** Requests about what still waits for an approval, the oldest first. */
    @GetMapping
    List<ApprovalRequest> approvalRequests() {
        return requests.open();
    }

    /** Asks for an approval; whoever asks again replaces what was said before. 409 when nothing waits. */
    @PostMapping
    ApprovalRequest askForApproval(@RequestBody NewApprovalRequest wanted, Principal who) {
        String note = wanted.note().strip();
        if (note.length() > LONGEST_NOTE) {
            throw Problem.invalid("The note has " + note.length() + " characters; " + LONGEST_NOTE + " are possible.");
        }
        ApprovalRequest asked = requests.ask(wanted.kind(), wanted.subjectId(), wanted.version(), note, who.getName());
        journal.write(
                who.getName(),
                "asked for approval",
                new Journal.Subject(
                        wanted.kind() == ApprovalRequest.Kind.MANIFEST ? "run" : "route",
                        wanted.subjectId(),
                        asked.subject()),
                note);
        return asked;
    }
}

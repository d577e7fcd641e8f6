package remitto.server.draft;

import java.security.Principal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/drafts")
class DraftController {
    private final Drafts drafts;

    DraftController(Drafts drafts) {
        this.drafts = drafts;
    }

    /**
     * An edit to be kept.
     *
     * @param title what the editor calls it, up to 300 characters
     * @param basedOn the version that the edit began from; 0 for something new
     * @param content the edit, as its page needs it to go on
     */
    record DraftRequest(String title, int basedOn, Map<String, Object> content) {}

    /**
     * What is kept of an edit.
     *
     * @param draft absent where nothing is kept
     */
    record KeptDraft(Optional<Draft> draft) {}

    /** Your drafts, the latest first. */
    @GetMapping
    List<Drafts.DraftEntry> drafts(Principal who) {
        return drafts.all(account(who));
    }

    /** Your draft of one thing, if there is one. */
    @GetMapping("/{kind}/{subject}")
    KeptDraft draft(@PathVariable DraftKind kind, @PathVariable String subject, Principal who) {
        return new KeptDraft(drafts.find(account(who), kind, subject));
    }

    /** Keeps an edit as your draft; the one before gives way. It has no effect until it is saved as a version. */
    @PutMapping("/{kind}/{subject}")
    KeptDraft keepDraft(
            @PathVariable DraftKind kind,
            @PathVariable String subject,
            @RequestBody DraftRequest request,
            Principal who) {
        return new KeptDraft(Optional.of(
                drafts.keep(account(who), kind, subject, request.title(), request.basedOn(), request.content())));
    }

    /** Discards your draft. */
    @DeleteMapping("/{kind}/{subject}")
    void discardDraft(@PathVariable DraftKind kind, @PathVariable String subject, Principal who) {
        drafts.discard(account(who), kind, subject);
    }

    private static long account(Principal who) {
        return Long.parseLong(who.getName());
    }
}

package remitto.server.retention;

import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** How long data is kept; administrators set it, everybody may read it. */
@RestController
@RequestMapping("/api/retention")
class RetentionController {
    private final Retention retention;

    RetentionController(Retention retention) {
        this.retention = retention;
    }

    /**
     * How many days a kind of data is kept; absent for forever.
     *
     * @param days 7 to 36,500; absent to keep it for good
     */
    record KeepingRequest(Optional<Integer> days) {}

    /** How long each kind of data is kept. */
    @GetMapping
    List<Retention.RetentionSetting> retention() {
        return retention.all();
    }

    /** Takes effect within a quarter of an hour; what is removed then does not come back. */
    @PutMapping("/{kind}")
    List<Retention.RetentionSetting> setRetention(
            @PathVariable RetentionKind kind, @RequestBody KeepingRequest request, Principal who) {
        retention.set(kind, request.days(), who.getName());
        return retention.all();
    }
}

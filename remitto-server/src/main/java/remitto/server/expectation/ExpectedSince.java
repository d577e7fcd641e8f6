package remitto.server.expectation;

import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import remitto.core.expectation.Expectation;
import remitto.server.dataset.DatasetInService;

/** What another version expects is checked at once, and what it does not expect any more is not broken. */
@Component
class ExpectedSince {
    private final DatasetReads reads;
    private final CheckTable checks;

    ExpectedSince(DatasetReads reads, CheckTable checks) {
        this.reads = reads;
        this.checks = checks;
    }

    @EventListener
    void inService(DatasetInService version) {
        reads.expectedNow(
                version.dataset(),
                version.definition().expectations().stream()
                        .map(Expectation::sentence)
                        .toList());
        if (!version.definition().expectations().isEmpty()) {
            checks.ask(version.dataset());
        }
    }
}

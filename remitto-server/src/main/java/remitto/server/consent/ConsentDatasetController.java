package remitto.server.consent;

import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.consent.ConsentString;
import remitto.server.journal.Journal;

/** Datasets that say by address what somebody agreed to, and what consent strings say. */
@RestController
@RequestMapping("/api/consents")
class ConsentDatasetController {
    private final ConsentDatasets consents;
    private final ConsentKeeper keeper;
    private final Journal journal;

    ConsentDatasetController(ConsentDatasets consents, ConsentKeeper keeper, Journal journal) {
        this.consents = consents;
        this.keeper = keeper;
        this.journal = journal;
    }

    /** A consent string of TCF 2 or GPP. */
    record StringText(String text) {}

    /**
     * What a consent string says.
     *
     * @param says what it says, purpose by purpose
     */
    record StringReading(String form, Optional<Instant> saidAt, List<String> says) {}

    /** Reads a consent string of TCF 2 or GPP. Nothing is kept. */
    @PostMapping("/strings/reading")
    StringReading readConsentString(@RequestBody StringText text) {
        ConsentString read = ConsentString.read(text.text());
        return new StringReading(read.form(), read.saidAt(), read.says());
    }

    /** The datasets that consent is read from. */
    @GetMapping("/datasets")
    List<ConsentDatasets.ConsentDataset> consentDatasets() {
        return consents.all();
    }

    /** Takes the rows of a dataset as what the owners of addresses said, and reads them. */
    @PutMapping("/datasets/{datasetId}")
    List<ConsentDatasets.ConsentDataset> takeConsents(
            @PathVariable long datasetId, @RequestBody ConsentDatasets.ConsentColumnsOf columns, Principal who) {
        consents.set(datasetId, columns);
        note(who, "takes consents from a dataset", datasetId, columns.purpose() + " by " + columns.channel());
        return readConsentDatasets();
    }

    /** Reads consent from its datasets in the background. */
    @PostMapping("/datasets/readings")
    List<ConsentDatasets.ConsentDataset> readConsentDatasets() {
        consents.read();
        keeper.refresh();
        return consents.all();
    }

    /** Stops using a dataset as a source of consent. Answers that were read are no longer used. */
    @DeleteMapping("/datasets/{datasetId}")
    List<ConsentDatasets.ConsentDataset> leaveConsents(@PathVariable long datasetId, Principal who) {
        consents.remove(datasetId);
        note(who, "takes consents from a dataset no longer", datasetId, "");
        keeper.refresh();
        return consents.all();
    }

    private void note(Principal who, String what, long dataset, String detail) {
        journal.write(who.getName(), what, new Journal.Subject("dataset", dataset, "dataset " + dataset), detail);
    }
}

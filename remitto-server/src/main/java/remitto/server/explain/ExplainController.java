package remitto.server.explain;

import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api")
class ExplainController {
    private final Explanations explanations;

    ExplainController(Explanations explanations) {
        this.explanations = explanations;
    }

    /**
     * Why a field there holds what it holds.
     *
     * @param field blank for the first that is known
     * @param destinationId of the destination
     * @param object of the destination
     * @param remoteId of the record in the destination
     */
    @GetMapping("/explain")
    Explanations.Explanation explain(
            @RequestParam long destinationId,
            @RequestParam String object,
            @RequestParam String remoteId,
            @RequestParam(defaultValue = "") String field) {
        return explanations.explain(destinationId, object, remoteId, field);
    }

    /**
     * The same for a record of a route, by its key in the dataset.
     *
     * @param key of the record
     * @param field to explain; blank for the first one
     */
    @GetMapping("/routes/{id}/explain")
    Explanations.Explanation explainRecord(
            @PathVariable long id, @RequestParam String key, @RequestParam(defaultValue = "") String field) {
        return explanations.ofRecord(id, key, field);
    }
}

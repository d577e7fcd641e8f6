package remitto.server.fieldbook;

import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api")
class RuleUseController {
    private final RuleUse use;
    private final ColumnUse columns;

    RuleUseController(RuleUse use, ColumnUse columns) {
        this.use = use;
        this.columns = columns;
    }

    /** Everywhere the columns of a dataset go. */
    @GetMapping("/datasets/{id}/use")
    List<ColumnUse.ColumnGoes> datasetUse(@PathVariable long id) {
        return columns.of(id);
    }

    /** Rules that take a value through the table. */
    @GetMapping("/crosswalks/{id}/use")
    List<RuleUse.UsedBy> crosswalkUse(@PathVariable long id) {
        return use.ofCrosswalk(id);
    }
}

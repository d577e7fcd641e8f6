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

    RuleUseController(RuleUse use) {
        this.use = use;
    }

    /** Rules that take a value through the table. */
    @GetMapping("/crosswalks/{id}/use")
    List<RuleUse.UsedBy> crosswalkUse(@PathVariable long id) {
        return use.ofCrosswalk(id);
    }
}

package remitto.server.route;

import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.expression.Functions;

@RestController
@RequestMapping("/api/expressions")
class ExpressionController {
    /**
     * A function of expressions, and what it does.
     *
     * @param help its arguments and what it gives
     */
    record FunctionHelp(String name, String help) {}

    /** The functions that expressions have besides those of CEL and its string library. */
    @GetMapping("/functions")
    List<FunctionHelp> functions() {
        return Functions.all().stream()
                .map(one -> new FunctionHelp(one.name(), one.help()))
                .toList();
    }
}

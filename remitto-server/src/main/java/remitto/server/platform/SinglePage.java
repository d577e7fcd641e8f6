package remitto.server.platform;

import io.swagger.v3.oas.annotations.Hidden;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/** Addresses inside the front end, so that they can be opened, reloaded and shared. */
@Controller
@Hidden
class SinglePage {
    @GetMapping({
        "/",
        "/sign-in",
        "/welcome/*",
        "/departures",
        "/held",
        "/journal",
        "/account",
        "/users",
        "/retention",
        "/sources/**",
        "/datasets/**",
        "/people/**",
        "/companies/**",
        "/audiences/**",
        "/routes/**",
        "/destinations/**",
        "/profiles/**",
        "/manifests/**",
        "/stocktakes/**",
        "/crosswalks/**",
        "/explain"
    })
    String page() {
        return "forward:/index.html";
    }
}

package remitto.server.platform;

import io.swagger.v3.oas.annotations.Hidden;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/** Addresses inside the front end, so that they can be opened, reloaded and shared. */
@Controller
@Hidden
class SinglePage {
    private static final String AT_THE_ROOT = "<base href=\"/\"";

    private final String page;

    /** @param contextPath below which everything is reached; blank or {@code /} for the root */
    SinglePage(
            @Value("classpath:/static/index.html") Resource built,
            @Value("${server.servlet.context-path:}") String contextPath)
            throws IOException {
        String text = built.getContentAsString(StandardCharsets.UTF_8);
        if (!text.contains(AT_THE_ROOT)) {
            throw new IllegalStateException("the front end's page does not say where it is: " + AT_THE_ROOT);
        }
        page = text.replace(AT_THE_ROOT, "<base href=\"" + contextPath.replaceAll("/+$", "") + "/\"");
    }

    @GetMapping({
        "/",
        "/sign-in",
        "/welcome/*",
        "/departures",
        "/held",
        "/journal",
        "/account",
        "/users",
        "/service-accounts",
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
    ResponseEntity<String> page() {
        return ResponseEntity.ok()
                .contentType(new MediaType(MediaType.TEXT_HTML, StandardCharsets.UTF_8))
                .cacheControl(CacheControl.noCache())
                .body(page);
    }
}

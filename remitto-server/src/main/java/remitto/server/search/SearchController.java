package remitto.server.search;

import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.platform.Problem;

@RestController
@RequestMapping("/api/search")
class SearchController {
    private static final int LONGEST = 200;

    private final Search search;

    SearchController(Search search) {
        this.search = search;
    }

    /**
     * Records at destinations, fields and manifests that a text finds; up to eight of each.
     *
     * @param text an id of a record in a tool, the key of a row, part of the name of a field, or the number of a manifest
     */
    @GetMapping
    SearchResult search(@RequestParam String text) {
        if (text.length() > LONGEST) {
            throw Problem.invalid("A search is at most 200 characters long.");
        }
        return search.find(text);
    }
}

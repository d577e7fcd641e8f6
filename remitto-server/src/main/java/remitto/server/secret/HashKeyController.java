package remitto.server.secret;

import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

@RestController
@RequestMapping("/api/hash-keys")
class HashKeyController {
    private final HashKeys keys;
    private final Journal journal;

    HashKeyController(HashKeys keys, Journal journal) {
        this.keys = keys;
        this.journal = journal;
    }

    /**
     * A key for keyed hashes to be made; at random where none is given.
     *
     * @param given in Base64; absent for a key at random
     */
    record NewHashKey(String name, Optional<String> given) {}

    /** The keys for keyed hashes, by name; never the keys themselves. */
    @GetMapping
    List<HashKeys.HashKey> hashKeys() {
        return keys.all();
    }

    /** Makes a key for keyed hashes, at random or from a given one. */
    @PostMapping
    List<HashKeys.HashKey> makeHashKey(@RequestBody NewHashKey wanted, Principal who) {
        if (!wanted.name().matches("[a-z0-9][a-z0-9-]{0,39}")) {
            throw Problem.invalid("A key name has lower-case letters, digits and hyphens.");
        }
        keys.make(wanted.name(), wanted.given().filter(text -> !text.isBlank()), who.getName());
        journal.write(who.getName(), "made hash key", new Journal.Subject("hash key", 0, wanted.name()), "");
        return keys.all();
    }
}

package remitto.server.consent;

import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.consent.FrequencyCap;
import remitto.server.journal.Journal;
import remitto.server.people.person.PersonFacts;
import remitto.server.permission.ActorNames;
import remitto.server.platform.Problem;

/** Consents of people, and the list of addresses nothing is sent to. */
@RestController
@RequestMapping("/api/consents")
class ConsentController {
    private final ActorNames names;
    private final Consents consents;
    private final ConsentKeeper keeper;
    private final ConsentFeeds feeds;
    private final Suppressions suppressions;
    private final PersonFacts facts;
    private final FrequencyCaps caps;
    private final Journal journal;
    private final Clock clock;

    ConsentController(
            ActorNames names,
            Consents consents,
            ConsentKeeper keeper,
            ConsentFeeds feeds,
            Suppressions suppressions,
            PersonFacts facts,
            FrequencyCaps caps,
            Journal journal,
            Clock clock) {
        this.names = names;
        this.consents = consents;
        this.keeper = keeper;
        this.feeds = feeds;
        this.suppressions = suppressions;
        this.facts = facts;
        this.caps = caps;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * What is known of consent.
     *
     * @param suppressed addresses on the list, of which {@code suppressions} are the latest
     */
    record ConsentOverview(
            List<Consents.PurposeCounts> purposes,
            List<Consents.ConsentMeaning> meanings,
            List<Consents.ConsentRecord> records,
            List<ConsentFeeds.ConsentFeed> feeds,
            List<ConsentFeeds.FeedChoice> feedChoices,
            long suppressed,
            List<Suppressions.SuppressionEntry> suppressions) {}

    /**
     * What a person agreed to.
     *
     * @param records said of the person or one of the person's addresses, besides what the person's records say
     */
    record PersonConsents(List<Consents.ConsentAnswer> answers, List<Consents.ConsentRecord> records) {}

    /**
     * An answer of a person, to be recorded.
     *
     * @param evidence such as a form's number or a letter; a later yes lifts a no only with it
     */
    record ConsentRequest(
            String purpose,
            String channel,
            boolean yes,
            Optional<Instant> saidAt,
            Optional<Instant> expiresAt,
            String evidence) {}

    /** The purpose and channel of the consent in a destination. */
    record FeedRequest(String purpose, String channel) {}

    /** The frequency cap and the routes that it counts. */
    record FrequencyCapRequest(Optional<FrequencyCap> limit, List<Long> routes) {}

    /** @param addresses one a line: e-mail addresses, phone numbers, or SHA-256 of normalised ones */
    /**
     * Addresses to be added to the suppression list.
     *
     * @param country ISO 3166-1 alpha-2 of phone numbers that are spelled without theirs; absent where it is not known
     */
    record SuppressionRequest(String addresses, Optional<String> country, String reason) {}

    /** What is known of consent: counts by purpose and channel, recorded answers, and what destinations and columns tell. */
    @GetMapping
    ConsentOverview consents() {
        return new ConsentOverview(
                consents.counts(),
                consents.meanings(),
                consents.latest(),
                feeds.all(),
                feeds.choices(),
                suppressions.size(),
                suppressions.latest());
    }

    /** Sets the purpose and channel of the consent columns of people. */
    @PutMapping("/meanings")
    ConsentOverview meanConsent(@RequestBody Consents.ConsentMeaning meaning, Principal who) {
        consents.mean(meaning);
        renew();
        journal.write(
                who.getName(),
                "said what a consent is about",
                new Journal.Subject("consent", 0, meaning.attribute()),
                meaning.purpose() + " by " + meaning.channel());
        return consents();
    }

    /** Takes what people say at a destination as their answer to a purpose. */
    @PutMapping("/feeds/{destinationId}")
    ConsentOverview feedConsent(@PathVariable long destinationId, @RequestBody FeedRequest request, Principal who) {
        feeds.set(destinationId, request.purpose(), request.channel());
        journal.write(
                who.getName(),
                "brings consents back",
                new Journal.Subject("destination", destinationId, "destination " + destinationId),
                request.purpose() + " by " + request.channel());
        return consents();
    }

    /** Reads what people said at destinations, and works out what counts. */
    @PostMapping("/feeds/readings")
    ConsentOverview readFeeds() {
        feeds.read();
        renew();
        return consents();
    }

    /** The frequency cap and the routes that count as messages. */
    @GetMapping("/frequency-cap")
    FrequencyCaps.FrequencyCapSetting frequencyCap() {
        return caps.setting();
    }

    /**
     * Holds from the next manifest on.
     *
     * @param request which routes send messages, and how many a person gets of them
     */
    @PutMapping("/frequency-cap")
    FrequencyCaps.FrequencyCapSetting limitMessages(@RequestBody FrequencyCapRequest request, Principal who) {
        caps.set(request.limit(), request.routes());
        journal.write(
                who.getName(),
                "set the frequency cap",
                new Journal.Subject("consent", 0, "frequency cap"),
                request.limit()
                        .map(one -> "at most " + one.most() + " in " + one.days() + " days")
                        .orElse("no limit"));
        return caps.setting();
    }

    /** What a person agreed to, by purpose and channel, with the evidence of each answer. */
    @GetMapping("/people/{personId}")
    PersonConsents personConsents(@PathVariable long personId) {
        return new PersonConsents(consents.answers(personId), consents.of(personId));
    }

    /** Writes down what a person said; a no is also kept against every address of the person. */
    @PostMapping("/people/{personId}")
    PersonConsents addConsent(@PathVariable long personId, @RequestBody ConsentRequest request, Principal who) {
        if (request.purpose().isBlank() || request.channel().isBlank()) {
            throw Problem.invalid("Enter the purpose and the channel.");
        }
        Instant now = clock.instant();
        if (request.saidAt().filter(at -> at.isAfter(now)).isPresent()) {
            throw Problem.invalid("This was said in the future.");
        }
        consents.add(
                new Consents.Whom(Optional.of(personId), Optional.empty()),
                new Consents.Said(
                        request.purpose(),
                        request.channel(),
                        request.yes(),
                        request.saidAt().orElse(now),
                        request.expiresAt(),
                        request.evidence()),
                new Consents.Origin("HAND", "by hand: " + names.of(who.getName())));
        renew();
        journal.write(
                who.getName(),
                request.yes() ? "wrote down a consent" : "wrote down that a consent was taken back",
                new Journal.Subject("person", personId, "person " + personId),
                request.purpose() + " by " + request.channel());
        return personConsents(personId);
    }

    /** Adds addresses, or hashes of them, to the suppression list. */
    @PostMapping("/suppressions")
    Suppressions.SuppressionsAdded suppress(@RequestBody SuppressionRequest request, Principal who) {
        if (request.reason().isBlank()) {
            throw Problem.invalid("Enter the reason why nothing may be sent to them.");
        }
        List<String> lines = Arrays.stream(request.addresses().split("[\\r\\n,;]+"))
                .map(String::strip)
                .filter(line -> !line.isEmpty())
                .toList();
        Suppressions.SuppressionsAdded added = suppressions.add(
                lines, country(request.country()), request.reason().strip(), who.getName());
        journal.write(
                who.getName(),
                "added to the suppression list",
                new Journal.Subject("consent", 0, "suppression list"),
                added.added() + " addresses: " + request.reason());
        return added;
    }

    private static String country(Optional<String> wanted) {
        String country = wanted.orElse("").strip().toUpperCase(Locale.ROOT);
        if (!country.isEmpty() && !Set.of(Locale.getISOCountries()).contains(country)) {
            throw Problem.invalid("Enter the country as two letters (ISO 3166), such as DK, or leave it empty.");
        }
        return country;
    }

    /** Removes an address from the suppression list. */
    @DeleteMapping("/suppressions/{hash}")
    ConsentOverview unsuppress(@PathVariable String hash, Principal who) {
        if (!suppressions.remove(hash)) {
            throw Problem.notFound("address with this hash on the list");
        }
        journal.write(
                who.getName(),
                "took off the suppression list",
                new Journal.Subject("consent", 0, "suppression list"),
                hash.substring(0, 12));
        return consents();
    }

    private void renew() {
        keeper.refresh();
        facts.refreshViews();
    }
}

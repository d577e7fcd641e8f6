package remitto.server.audience;

import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.audience.AudienceSpec;
import remitto.server.people.About;

/** Answers about a condition while somebody edits it. Nothing here is saved. */
@RestController
@RequestMapping("/api/conditions")
class ConditionController {
    private final AudienceWords words;
    private final LiveCounts counts;
    private final WhyInOrNot why;

    ConditionController(AudienceWords words, LiveCounts counts, WhyInOrNot why) {
        this.words = words;
        this.counts = counts;
        this.why = why;
    }

    /** @param exact false where a sample will do */
    record CountWish(About about, AudienceSpec spec, boolean exact) {}

    record WhyWish(About about, AudienceSpec spec, long personId) {}

    record ExamplesWish(About about, AudienceSpec spec) {}

    @GetMapping("/words")
    AudienceWords.Words conditionWords(@RequestParam(defaultValue = "PERSON") About about) {
        return words.of(about);
    }

    /** @param events whose column is meant; blank for an attribute of people */
    @GetMapping("/values")
    List<AudienceWords.ValueWord> conditionValues(
            @RequestParam(defaultValue = "PERSON") About about,
            @RequestParam(defaultValue = "") String events,
            @RequestParam String name) {
        return words.values(about, events, name);
    }

    @PostMapping("/count")
    LiveCounts.LiveCount countCondition(@RequestBody CountWish wish) {
        return counts.count(wish.about(), wish.spec(), wish.exact());
    }

    @PostMapping("/why")
    WhyInOrNot.Why whyInOrNot(@RequestBody WhyWish wish) {
        return why.why(wish.about(), wish.spec(), wish.personId());
    }

    @PostMapping("/examples")
    List<WhyInOrNot.TypicalMember> typicalMembers(@RequestBody ExamplesWish wish) {
        return why.examples(wish.about(), wish.spec());
    }
}

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

/** Answers about a condition while somebody edits it. Nothing is saved. */
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
    record CountRequest(About about, AudienceSpec spec, boolean exact) {}

    record WhyRequest(About about, AudienceSpec spec, long personId) {}

    record ExamplesRequest(About about, AudienceSpec spec) {}

    @GetMapping("/words")
    AudienceWords.ConditionVocabulary conditionWords(@RequestParam(defaultValue = "PERSON") About about) {
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
    LiveCounts.LiveCount countCondition(@RequestBody CountRequest request) {
        return counts.count(request.about(), request.spec(), request.exact());
    }

    @PostMapping("/why")
    WhyInOrNot.MembershipAnswer whyInOrNot(@RequestBody WhyRequest request) {
        return why.why(request.about(), request.spec(), request.personId());
    }

    @PostMapping("/examples")
    List<WhyInOrNot.TypicalMember> typicalMembers(@RequestBody ExamplesRequest request) {
        return why.examples(request.about(), request.spec());
    }
}

package remitto.server.audience;

import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.audience.AudienceSpec;
import remitto.server.people.EntityType;

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

    /**
     * A definition whose members are to be counted.
     *
     * @param exact false where a sample will do
     */
    record CountRequest(EntityType entityType, AudienceSpec spec, boolean exact) {}

    /** A definition and a person about whom it is asked why. */
    record WhyRequest(EntityType entityType, AudienceSpec spec, long personId) {}

    /** A definition of which a few members are asked for. */
    record ExamplesRequest(EntityType entityType, AudienceSpec spec) {}

    /**
     * The attributes, measures, events, audiences and consents that conditions can use.
     *
     * @param entityType people or companies
     */
    @GetMapping("/words")
    AudienceWords.ConditionVocabulary conditionWords(@RequestParam(defaultValue = "PERSON") EntityType entityType) {
        return words.of(entityType);
    }

    /**
     * The most frequent values of an attribute or of a column of events.
     *
     * @param events whose column is meant; blank for an attribute of people
     * @param name of the attribute or column
     * @param entityType people or companies
     */
    @GetMapping("/values")
    List<AudienceWords.ValueWord> conditionValues(
            @RequestParam(defaultValue = "PERSON") EntityType entityType,
            @RequestParam(defaultValue = "") String events,
            @RequestParam String name) {
        return words.values(entityType, events, name);
    }

    /** How many people match a definition, and each of its conditions. Nothing is saved. */
    @PostMapping("/count")
    LiveCounts.LiveCount countCondition(@RequestBody CountRequest request) {
        return counts.count(request.entityType(), request.spec(), request.exact());
    }

    /** Why a person is in an audience of this definition or not, condition by condition. */
    @PostMapping("/why")
    WhyInOrNot.MembershipAnswer whyInOrNot(@RequestBody WhyRequest request) {
        return why.why(request.entityType(), request.spec(), request.personId());
    }

    /** A few people who match a definition. Nothing is saved. */
    @PostMapping("/examples")
    List<WhyInOrNot.TypicalMember> typicalMembers(@RequestBody ExamplesRequest request) {
        return why.examples(request.entityType(), request.spec());
    }
}

package remitto.server.people.rule;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.timetable.Schedule;
import remitto.server.definition.DefinitionKind;
import remitto.server.people.EntityType;
import remitto.server.people.source.PeopleSources;
import remitto.server.platform.Problem;

/** The rules by which records are joined, as files: one for people, one for companies. */
@Component
class MatchRuleFiles implements DefinitionKind<MatchRuleFiles.MatchRulesFile> {
    private final PeopleRuleVersions versions;
    private final PeopleSettings settings;
    private final PeopleSources sources;
    private final MatchRuleKeeping keeping;
    private final MatchingPlan plan;

    MatchRuleFiles(
            PeopleRuleVersions versions,
            PeopleSettings settings,
            PeopleSources sources,
            MatchRuleKeeping keeping,
            MatchingPlan plan) {
        this.versions = versions;
        this.settings = settings;
        this.sources = sources;
        this.keeping = keeping;
        this.plan = plan;
    }

    /**
     * Match rules. Guards and timetable have no versions and count at once.
     *
     * @param sourcesInOrder all datasets that describe them, the first of which decides ties
     * @param guards shares from 0 to 1 above which a run waits for an approver
     * @param schedule when matching runs by itself
     */
    record MatchRulesFile(
            EntityType entityType,
            List<Long> sourcesInOrder,
            PeopleRules rules,
            PeopleSettings.PeopleGuards guards,
            Schedule schedule) {
        MatchRulesFile {
            sourcesInOrder = List.copyOf(sourcesInOrder);
        }
    }

    @Override
    public Form<MatchRulesFile> form() {
        return new Form<>("match-rules", "match-rules", MatchRulesFile.class, 60, true);
    }

    @Override
    public boolean isRemovable() {
        return false;
    }

    /** Those of an entity type that no dataset describes say nothing yet. */
    @Override
    public List<Kept<MatchRulesFile>> all() {
        return Arrays.stream(EntityType.values())
                .filter(type -> !sources.all(type).isEmpty())
                .map(type -> new Kept<>(
                        type.name(),
                        type == EntityType.PERSON ? "People" : "Companies",
                        file(type, versions.latest(type).rules()),
                        Optional.of(file(type, versions.inService(type).rules()))))
                .toList();
    }

    private MatchRulesFile file(EntityType entityType, PeopleRules rules) {
        PeopleSettings.Setting setting = settings.of(entityType);
        return new MatchRulesFile(entityType, inOrder(entityType), rules, setting.guards(), setting.schedule());
    }

    private List<Long> inOrder(EntityType entityType) {
        return sources.all(entityType).stream()
                .map(PeopleSources.PeopleSource::datasetId)
                .toList();
    }

    @Override
    public String add(Change<MatchRulesFile> change) {
        String id = change.content().entityType().name();
        change(id, change);
        return id;
    }

    @Override
    public void change(String id, Change<MatchRulesFile> change) {
        MatchRulesFile file = change.content();
        if (!file.entityType().name().equals(id)) {
            throw Problem.conflict("Match rules stay those of people or of companies.");
        }
        PeopleRuleVersions.Numbered latest = versions.latest(file.entityType());
        if (!latest.rules().equals(file.rules())) {
            keeping.save(file.entityType(), latest.number(), file.rules(), change.who(), change.note());
        }
        order(file);
        PeopleSettings.Setting now = settings.of(file.entityType());
        if (!now.guards().equals(file.guards()) || !now.schedule().equals(file.schedule())) {
            plan.plan(file.entityType(), file.guards(), file.schedule(), change.who());
        }
    }

    private void order(MatchRulesFile file) {
        List<Long> wanted = file.sourcesInOrder();
        List<Long> now = inOrder(file.entityType());
        if (wanted.size() != now.size() || !now.containsAll(wanted)) {
            throw Problem.invalid(
                    "Name in sources_in_order every dataset that describes them, once; there are " + now.size() + ".");
        }
        for (int place = 0; place < wanted.size() && !wanted.equals(inOrder(file.entityType())); place++) {
            sources.move(file.entityType(), wanted.get(place), place);
        }
    }

    @Override
    public void putInService(String id, Change<MatchRulesFile> change) {
        EntityType type = EntityType.valueOf(id);
        int latest = versions.latest(type).number();
        if (settings.of(type).liveRules() != latest) {
            keeping.putInService(type, latest, change.who());
        }
    }

    @Override
    public void remove(String id, String who) {
        throw Problem.conflict("Match rules are there as long as a dataset describes people or companies.");
    }
}

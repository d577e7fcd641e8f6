package remitto.server.audience;

import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.audience.AudienceSpec;
import remitto.core.audience.Condition;
import remitto.core.audience.ControlGroup;
import remitto.core.dataset.Column;
import remitto.server.dataset.DatasetMaker;
import remitto.server.dataset.MadeDatasets;
import remitto.server.definition.DefinitionKind;
import remitto.server.people.EntityType;
import remitto.server.platform.Problem;

/** Audiences as files. */
@Component
class AudienceFiles implements DefinitionKind<AudienceFiles.AudienceFile>, DatasetMaker {
    private final Audiences audiences;
    private final AudienceKeeping keeping;
    private final AudienceRoutes routes;
    private final Memberships memberships;

    AudienceFiles(Audiences audiences, AudienceKeeping keeping, AudienceRoutes routes, Memberships memberships) {
        this.audiences = audiences;
        this.keeping = keeping;
        this.routes = routes;
        this.memberships = memberships;
    }

    /**
     * An audience.
     *
     * @param countFirst whether routes count it before they prepare a manifest; has no versions and counts at once
     * @param condition that its people meet; what counts when {@code sql} is blank
     * @param sql a query whose column person_id says who is a member; blank otherwise
     * @param zone in which its days are counted
     * @param best absent when all who meet the condition match
     */
    record AudienceFile(
            String name,
            String description,
            EntityType entityType,
            boolean countFirst,
            Condition condition,
            String sql,
            String zone,
            ControlGroup controlGroup,
            Optional<AudienceSpec.Best> best) {
        AudienceSpec spec() {
            return new AudienceSpec(condition, sql, zone, controlGroup, best);
        }
    }

    @Override
    public Form<AudienceFile> form() {
        return new Form<>("audience", "audiences", AudienceFile.class, 90, true);
    }

    @Override
    public List<Kept<AudienceFile>> all() {
        return audiences.all().stream()
                .map(one -> new Kept<>(
                        Long.toString(one.id()),
                        one.name(),
                        file(one, one.spec()),
                        one.liveSpec().map(live -> file(one, live))))
                .toList();
    }

    private static AudienceFile file(Audiences.Audience audience, AudienceSpec spec) {
        return new AudienceFile(
                audience.name(),
                audience.description(),
                audience.entityType(),
                audience.countFirst(),
                spec.condition(),
                spec.sql(),
                spec.zone(),
                spec.controlGroup(),
                spec.best());
    }

    @Override
    public String add(Change<AudienceFile> change) {
        long id = keeping.add(draft(change, 0), change.who());
        countFirst(id, change);
        return Long.toString(id);
    }

    @Override
    public void change(String id, Change<AudienceFile> change) {
        Audiences.Audience now = audiences.get(Long.parseLong(id));
        if (now.entityType() != change.content().entityType()) {
            throw Problem.conflict("An audience stays one of people or of companies; make another audience.");
        }
        boolean same = now.spec().equals(change.content().spec())
                && now.name().equals(change.content().name())
                && now.description().equals(change.content().description());
        if (!same) {
            keeping.save(now.id(), draft(change, now.latestVersion()), change.who());
        }
        countFirst(now.id(), change);
    }

    private static Audiences.AudienceDraft draft(Change<AudienceFile> change, int basedOn) {
        AudienceFile file = change.content();
        return new Audiences.AudienceDraft(
                file.name(), file.description(), file.entityType(), basedOn, file.spec(), Optional.of(change.note()));
    }

    private void countFirst(long id, Change<AudienceFile> change) {
        if (audiences.get(id).countFirst() != change.content().countFirst()) {
            keeping.countFirst(id, change.content().countFirst(), change.who());
        }
    }

    @Override
    public void putInService(String id, Change<AudienceFile> change) {
        Audiences.Audience now = audiences.get(Long.parseLong(id));
        if (!now.liveVersion().filter(live -> live == now.latestVersion()).isPresent()) {
            keeping.putInService(now.id(), now.latestVersion(), change.who());
            change.later().accept(() -> memberships.count(audiences.get(now.id()), change.who()));
        }
    }

    @Override
    public void remove(String id, String who) {
        keeping.remove(Long.parseLong(id), who);
    }

    @Override
    public MadeDatasets.MadeOf of() {
        return MadeDatasets.MadeOf.AUDIENCE;
    }

    @Override
    public long make(long id, List<Column> columns, String who) {
        Audiences.Audience audience = audiences.get(id);
        if (audience.liveVersion().isEmpty()) {
            throw Problem.conflict("Put a version of " + audience.name() + " in service first.");
        }
        return routes.dataset(audience, columns, who);
    }
}

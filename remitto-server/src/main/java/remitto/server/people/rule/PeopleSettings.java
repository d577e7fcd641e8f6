package remitto.server.people.rule;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.approval.FourEyes;
import remitto.core.identity.evidence.Weights;
import remitto.core.timetable.Schedule;
import remitto.server.people.EntityType;
import remitto.server.platform.ActorName;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** What holds from run to run: the rules in service, the estimated weights, guards, and when runs are due. */
@Component
public class PeopleSettings {
    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;

    PeopleSettings(JdbcClient jdbc, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /**
     * Shares, from 0 to 1, over which a run waits for an approver.
     *
     * @param joined persons who would become others, of those there were
     * @param split persons some of whose records would become others
     * @param gone records that are no more, of those there were
     */
    public record PeopleGuards(double joined, double split, double gone) {
        /** Whether they let pass what others would stop. */
        public boolean areLooserThan(PeopleGuards before) {
            return joined > before.joined || split > before.split || gone > before.gone;
        }

        public PeopleGuards {
            for (double share : new double[] {joined, split, gone}) {
                if (!(share >= 0 && share <= 1)) {
                    throw Problem.invalid("A guard is a share from 0 to 100 percent.");
                }
            }
        }
    }

    private static final PeopleGuards USUAL = new PeopleGuards(0.05, 0.02, 0.2);

    /**
     * A setting that a profile asks for.
     *
     * @param liveRules version of the rules in service; 0 for what ships
     * @param putBy who put them in service; blank for nobody
     * @param judgedBy what the persons of now were judged by; blank for nothing
     */
    public record Setting(
            int liveRules,
            @ActorName String putBy,
            Optional<Weights> weights,
            String weightsFor,
            Optional<Instant> estimatedAt,
            @ActorName String judgedBy,
            PeopleGuards guards,
            Schedule schedule,
            Optional<Instant> nextRun) {}

    public Setting of(EntityType entityType) {
        return jdbc.sql("select * from identity_setting where about = ?")
                .param(entityType.name())
                .query((row, number) -> new Setting(
                        row.getInt("live_rules"),
                        row.getString("put_by"),
                        Rows.optionalText(row, "weights").map(text -> json.read(text, Weights.class)),
                        row.getString("weights_for"),
                        Rows.optionalTime(row, "estimated_at"),
                        row.getString("judged_by"),
                        json.read(row.getString("guards"), PeopleGuards.class),
                        json.read(row.getString("schedule"), Schedule.class),
                        Rows.optionalTime(row, "next_run")))
                .optional()
                .orElseGet(() -> new Setting(
                        0,
                        "",
                        Optional.empty(),
                        "",
                        Optional.empty(),
                        "",
                        USUAL,
                        new Schedule.ByHand("UTC"),
                        Optional.empty()));
    }

    private void present(EntityType entityType) {
        jdbc.sql("""
                        insert into identity_setting (about, guards, schedule) values (?, ?::jsonb, ?::jsonb)
                        on conflict (about) do nothing
                        """)
                .params(entityType.name(), json.write(USUAL), json.write(new Schedule.ByHand("UTC")))
                .update();
    }

    void live(EntityType entityType, int number, String who) {
        present(entityType);
        jdbc.sql("update identity_setting set live_rules = ?, put_by = ? where about = ?")
                .params(number, who, entityType.name())
                .update();
    }

    public void estimated(EntityType entityType, Weights weights, String weightsFor) {
        present(entityType);
        jdbc.sql("update identity_setting set weights = ?::jsonb, weights_for = ?, estimated_at = ? where about = ?")
                .params(json.write(weights), weightsFor, Rows.time(clock.instant()), entityType.name())
                .update();
    }

    public void judged(EntityType entityType, String judgedBy) {
        present(entityType);
        jdbc.sql("update identity_setting set judged_by = ? where about = ?")
                .params(judgedBy, entityType.name())
                .update();
    }

    /** @param who set them, by the id of their account */
    public void guard(EntityType entityType, PeopleGuards guards, String who) {
        present(entityType);
        jdbc.sql("update identity_setting set guards = ?::jsonb, guards_by = ? where about = ?")
                .params(json.write(guards), who, entityType.name())
                .update();
    }

    /** Who had a part in what a run would do: rules put in service or saved, guards set, and columns mapped since one was approved. */
    public List<FourEyes.Part> parts(EntityType entityType) {
        return jdbc.sql("""
                        with since as (select coalesce(max(started_at), '-infinity') as at from identity_run
                          where about = :about and stopped is not null and decided_by ~ '^[0-9]+$' and approved)
                        select put_by as who, 'put the match rules in service' as what from identity_setting where about = :about
                        union select guards_by, 'set the guards of matching' from identity_setting where about = :about
                        union select author, 'changed the match rules' from identity_rules, since
                          where about = :about and saved_at > at
                        union select saved_by, 'mapped the columns of a dataset' from identity_source, since
                          where saved_at > at
                        order by what
                        """)
                .param("about", entityType.name())
                .query((row, number) -> new FourEyes.Part(row.getString("who"), row.getString("what")))
                .list();
    }

    public void schedule(EntityType entityType, Schedule schedule) {
        try {
            ZoneId.of(schedule.zone());
        } catch (java.time.DateTimeException e) {
            throw Problem.invalid("There is no time zone called " + schedule.zone() + ".");
        }
        present(entityType);
        jdbc.sql("update identity_setting set schedule = ?::jsonb, next_run = ? where about = ?")
                .params(
                        json.write(schedule),
                        schedule.begins(clock.instant()).map(Rows::time).orElse(null),
                        entityType.name())
                .update();
    }

    public List<EntityType> due(Instant now) {
        return jdbc.sql("select about from identity_setting where next_run <= ? order by about")
                .param(Rows.time(now))
                .query((row, number) -> EntityType.valueOf(row.getString("about")))
                .list();
    }

    /** Makes matching due where it runs when its data changes; another timetable that was set meanwhile holds. */
    public void dataChanged(EntityType entityType, Instant at) {
        jdbc.sql("""
                        update identity_setting set next_run = ? where about = ? and schedule ->> 'kind' = 'on-change'
                        """).params(Rows.time(at), entityType.name()).update();
    }

    /**
     * It is due again when its timetable next says so.
     *
     * @param due since when it was; what has become due meanwhile stays so
     */
    public void started(EntityType entityType, Instant due) {
        Schedule schedule = of(entityType).schedule();
        jdbc.sql("update identity_setting set next_run = ? where about = ? and next_run = ?")
                .params(schedule.next(clock.instant()).map(Rows::time).orElse(null), entityType.name(), Rows.time(due))
                .update();
    }
}

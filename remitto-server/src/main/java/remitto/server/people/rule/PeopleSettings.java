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
import remitto.server.people.About;
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

    public Setting of(About about) {
        return jdbc.sql("select * from identity_setting where about = ?")
                .param(about.name())
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
                        new Schedule.ByHand("Europe/Oslo"),
                        Optional.empty()));
    }

    private void present(About about) {
        jdbc.sql("""
                        insert into identity_setting (about, guards, schedule) values (?, ?::jsonb, ?::jsonb)
                        on conflict (about) do nothing
                        """)
                .params(about.name(), json.write(USUAL), json.write(new Schedule.ByHand("Europe/Oslo")))
                .update();
    }

    void live(About about, int number, String who) {
        present(about);
        jdbc.sql("update identity_setting set live_rules = ?, put_by = ? where about = ?")
                .params(number, who, about.name())
                .update();
    }

    public void estimated(About about, Weights weights, String weightsFor) {
        present(about);
        jdbc.sql("update identity_setting set weights = ?::jsonb, weights_for = ?, estimated_at = ? where about = ?")
                .params(json.write(weights), weightsFor, Rows.time(clock.instant()), about.name())
                .update();
    }

    public void judged(About about, String judgedBy) {
        present(about);
        jdbc.sql("update identity_setting set judged_by = ? where about = ?")
                .params(judgedBy, about.name())
                .update();
    }

    /** @param who set them, by the id of their account */
    public void guard(About about, PeopleGuards guards, String who) {
        present(about);
        jdbc.sql("update identity_setting set guards = ?::jsonb, guards_by = ? where about = ?")
                .params(json.write(guards), who, about.name())
                .update();
    }

    /** Who had a part in what a run would do: rules put in service or saved, guards set, and columns mapped since one was approved. */
    public List<FourEyes.Part> parts(About about) {
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
                .param("about", about.name())
                .query((row, number) -> new FourEyes.Part(row.getString("who"), row.getString("what")))
                .list();
    }

    public void schedule(About about, Schedule schedule) {
        try {
            ZoneId.of(schedule.zone());
        } catch (java.time.DateTimeException e) {
            throw Problem.invalid("There is no time zone called " + schedule.zone() + ".");
        }
        present(about);
        next(about, schedule);
        jdbc.sql("update identity_setting set schedule = ?::jsonb where about = ?")
                .params(json.write(schedule), about.name())
                .update();
    }

    private void next(About about, Schedule schedule) {
        jdbc.sql("update identity_setting set next_run = ? where about = ?")
                .params(schedule.next(clock.instant()).map(Rows::time).orElse(null), about.name())
                .update();
    }

    public List<About> due(Instant now) {
        return jdbc.sql("select about from identity_setting where next_run <= ? order by about")
                .param(Rows.time(now))
                .query((row, number) -> About.valueOf(row.getString("about")))
                .list();
    }

    /** It is due again when its timetable next says so. */
    public void started(About about) {
        next(about, of(about).schedule());
    }
}

package remitto.server.audience;

import jakarta.annotation.PreDestroy;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.timetable.Schedule;
import remitto.server.consent.ConsentDatasets;
import remitto.server.consent.ConsentFeeds;
import remitto.server.consent.ConsentKeeper;
import remitto.server.event.EventIntake;
import remitto.server.event.EventSets;
import remitto.server.measure.MeasureKeeper;
import remitto.server.measure.Population;
import remitto.server.people.person.PersonFacts;
import remitto.server.people.resolution.PeopleJoined;
import remitto.server.platform.ActorName;
import remitto.server.platform.DueWork;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/**
 * Brings audiences up to date: events are read, measures worked out, everybody counted. By hand, by timetable, and after
 * people were joined; one at a time over all server processes. It sends nothing: a route departs afterwards only if its timetable says so.
 */
@Component
class AudienceRefresh implements DueWork {
    private static final Logger LOG = LoggerFactory.getLogger(AudienceRefresh.class);
    private static final Duration SILENT = Duration.ofMinutes(10);

    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;
    private final EventSets events;
    private final EventIntake intake;
    private final Population population;
    private final MeasureKeeper measures;
    private final Audiences audiences;
    private final Memberships memberships;
    private final PersonFacts facts;
    private final ConsentKeeper consents;
    private final ConsentFeeds feeds;
    private final ConsentDatasets consentDatasets;
    private final ApplicationEventPublisher told;
    private final ExecutorService pool = Executors.newSingleThreadExecutor(task -> new Thread(task, "audiences"));

    AudienceRefresh(
            JdbcClient jdbc,
            Json json,
            Clock clock,
            EventSets events,
            EventIntake intake,
            Population population,
            MeasureKeeper measures,
            Audiences audiences,
            Memberships memberships,
            PersonFacts facts,
            ConsentKeeper consents,
            ConsentFeeds feeds,
            ConsentDatasets consentDatasets,
            ApplicationEventPublisher told) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
        this.events = events;
        this.intake = intake;
        this.population = population;
        this.measures = measures;
        this.audiences = audiences;
        this.memberships = memberships;
        this.facts = facts;
        this.consents = consents;
        this.feeds = feeds;
        this.consentDatasets = consentDatasets;
        this.told = told;
    }

    /**
     * When audiences were refreshed, and whether they are being refreshed.
     *
     * @param stage what is being done; blank while nothing is
     * @param oneOf one of how many people is in the sample that answers while somebody edits; 0 while everybody is counted
     */
    record RefreshState(
            Schedule schedule,
            Optional<Instant> nextRun,
            @ActorName String runBy,
            Optional<Instant> startedAt,
            Optional<Instant> finishedAt,
            String stage,
            String problem,
            int oneOf) {}

    RefreshState state() {
        return jdbc.sql("select * from audience_setting")
                .query((row, number) -> read(row))
                .single();
    }

    private RefreshState read(ResultSet row) throws SQLException {
        return new RefreshState(
                json.read(row.getString("schedule"), Schedule.class),
                Rows.optionalTime(row, "next_run"),
                row.getString("run_by"),
                Rows.optionalTime(row, "started_at"),
                Rows.optionalTime(row, "finished_at"),
                row.getString("stage"),
                row.getString("problem"),
                row.getInt("one_of"));
    }

    RefreshState schedule(Schedule schedule) {
        jdbc.sql("update audience_setting set schedule = ?::jsonb, next_run = ?")
                .params(
                        json.write(schedule),
                        schedule.begins(clock.instant()).map(Rows::time).orElse(null))
                .update();
        return state();
    }

    /** @throws Problem if it is being done already */
    void start(String who) {
        if (!begin(who)) {
            throw Problem.conflict("Audiences are already being refreshed.");
        }
        pool.execute(this::run);
    }

    /** Does it at once, in this thread, unless it is being done already. */
    boolean now(String who) {
        if (!begin(who)) {
            return false;
        }
        run();
        return true;
    }

    private boolean begin(String who) {
        Instant now = clock.instant();
        return jdbc.sql("""
                        update audience_setting set run_by = :who, started_at = :now, beat_at = :now, finished_at = null,
                          stage = 'beginning', problem = ''
                        where stage = '' or beat_at < :silent
                        """)
                        .param("who", who)
                        .param("now", Rows.time(now))
                        .param("silent", Rows.time(now.minus(SILENT)))
                        .update()
                > 0;
    }

    @Override
    public void startDue(Instant now) {
        RefreshState state = state();
        if (state.nextRun().filter(at -> !at.isAfter(now)).isPresent() && begin("the timetable")) {
            // What has become due meanwhile stays so.
            jdbc.sql("update audience_setting set next_run = ? where next_run = ?")
                    .params(
                            state.schedule().next(now).map(Rows::time).orElse(null),
                            Rows.time(state.nextRun().get()))
                    .update();
            pool.execute(this::run);
        }
    }

    @EventListener
    void joined(PeopleJoined joined) {
        if (begin("a matching run of " + (joined.entityType().name().equals("PERSON") ? "people" : "companies"))) {
            pool.execute(this::run);
        } else {
            // Whoever counts now may have read people before; it is done once more afterwards.
            jdbc.sql("update audience_setting set next_run = ?")
                    .param(Rows.time(clock.instant()))
                    .update();
        }
    }

    private void run() {
        StringBuilder problems = new StringBuilder();
        try {
            for (EventSets.EventSet set : events.all()) {
                stage("reading " + set.name());
                if (!intake.read(set.id(), set.newestAt().isEmpty())) {
                    problems.append(set.name()).append(" could not be read. ");
                }
            }
            stage("reading people");
            intake.whose();
            population.refresh();
            stage("reading consent from destinations");
            if (!feeds.read()) {
                problems.append("Consent could not be read from a destination; see the Consent page. ");
            }
            stage("reading consents of datasets");
            if (!consentDatasets.read()) {
                problems.append("Consent could not be read from a dataset; see the Consent page. ");
            }
            stage("computing consent");
            consents.refresh();
            stage("computing measures");
            measures.refreshAll();
            facts.refreshViews();
            stage("drawing a sample");
            population.drawSample();
            for (Audiences.Audience audience : audiences.all()) {
                if (audience.liveVersion().isPresent()) {
                    stage("counting " + audience.name());
                    if (!memberships
                            .count(audience, "counting audiences")
                            .problem()
                            .isEmpty()) {
                        problems.append(audience.name()).append(" could not be counted. ");
                    }
                }
            }
        } catch (RuntimeException e) {
            LOG.error("Audiences could not be refreshed", e);
            problems.append("Something unexpected failed. The server's log has the details.");
        } finally {
            jdbc.sql("update audience_setting set stage = '', finished_at = ?, problem = ?")
                    .params(Rows.time(clock.instant()), problems.toString().strip())
                    .update();
            tell();
        }
    }

    /** Audiences are counted, whatever becomes of what waits for that. */
    private void tell() {
        try {
            told.publishEvent(new AudiencesCounted());
        } catch (RuntimeException e) {
            LOG.error("What waits for audiences could not be begun", e);
        }
    }

    private void stage(String words) {
        jdbc.sql("update audience_setting set stage = ?, beat_at = ?")
                .params(words, Rows.time(clock.instant()))
                .update();
    }

    @PreDestroy
    void stop() {
        pool.shutdownNow();
    }
}

package remitto.server.probe;

import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Consumer;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.fieldrule.Receives;
import remitto.core.route.RouteSpec;
import remitto.core.timetable.Schedule;
import remitto.server.audience.AudienceTimetable;
import remitto.server.dataset.Datasets;
import remitto.server.event.EventSets;
import remitto.server.people.EntityType;
import remitto.server.people.rule.PeopleSettings;
import remitto.server.people.source.PeopleSources;
import remitto.server.platform.Rows;
import remitto.server.route.Routes;
import remitto.server.source.Sources;

/** What begins when data has changed: routes, matching, and counting, each where its timetable says so. */
@Component
class Waiting {
    private final Routes routes;
    private final Datasets datasets;
    private final Sources sources;
    private final PeopleSettings people;
    private final PeopleSources peopleSources;
    private final AudienceTimetable audiences;
    private final EventSets events;
    private final JdbcClient jdbc;

    Waiting(
            Routes routes,
            Datasets datasets,
            Sources sources,
            PeopleSettings people,
            PeopleSources peopleSources,
            AudienceTimetable audiences,
            EventSets events,
            JdbcClient jdbc) {
        this.routes = routes;
        this.datasets = datasets;
        this.sources = sources;
        this.people = people;
        this.peopleSources = peopleSources;
        this.audiences = audiences;
        this.events = events;
        this.jdbc = jdbc;
    }

    /** What waits for one dataset. */
    static final class Of {
        private final Set<Long> routes = new TreeSet<>();
        private final List<String> names = new ArrayList<>();
        private final Set<EntityType> matching = EnumSet.noneOf(EntityType.class);
        private boolean counting;

        /** In words, such as "Route Bookings to Purser". */
        List<String> words() {
            List<String> words =
                    new ArrayList<>(names.stream().map(name -> "Route " + name).toList());
            matching.forEach(
                    about -> words.add("Matching for " + (about == EntityType.PERSON ? "people" : "companies")));
            if (counting) {
                words.add("Audience counting");
            }
            return words;
        }
    }

    /** By dataset; one that nothing waits for is missing, and so is what matching and counting make, since these tell by themselves. */
    Map<Long, Of> looked() {
        Map<Long, Of> looked = all();
        looked.keySet().removeIf(this::isMade);
        return looked;
    }

    /** By dataset; one that nothing waits for is missing. */
    Map<Long, Of> all() {
        Map<Long, Of> all = new TreeMap<>();
        departing()
                .forEach(route -> read(route, dataset -> {
                    Of of = all.computeIfAbsent(dataset, fresh -> new Of());
                    if (of.routes.add(route.id())) {
                        of.names.add(route.name());
                    }
                }));
        for (EntityType about : EntityType.values()) {
            if (people.of(about).schedule() instanceof Schedule.OnChange) {
                peopleSources.all(about).forEach(source -> all.computeIfAbsent(source.datasetId(), fresh -> new Of())
                        .matching
                        .add(about));
            }
        }
        if (audiences.schedule() instanceof Schedule.OnChange) {
            counted().forEach(dataset -> all.computeIfAbsent(dataset, fresh -> new Of()).counting = true);
        }
        return all;
    }

    /** Routes that depart when their data changes. */
    private List<Routes.Route> departing() {
        return routes.all().stream()
                .filter(route -> !route.paused()
                        && route.liveSpec()
                                .filter(spec -> spec.schedule() instanceof Schedule.OnChange)
                                .isPresent())
                .toList();
    }

    private static void read(Routes.Route route, Consumer<Long> dataset) {
        dataset.accept(route.datasetId());
        RouteSpec spec = route.liveSpec().orElseThrow();
        spec.rules().forEach(rule -> {
            if (rule.receives() instanceof Receives.FromDataset looked) {
                looked.where().datasets().forEach(dataset);
            }
        });
    }

    private Set<Long> counted() {
        Set<Long> counted = new TreeSet<>();
        events.all().forEach(set -> counted.add(set.datasetId()));
        counted.addAll(jdbc.sql("select dataset_id from consent_dataset")
                .query(Long.class)
                .list());
        return counted;
    }

    /** Whether its rows are what matching and counting make. */
    boolean isMade(long dataset) {
        return datasets.find(dataset)
                .map(one -> sources.get(one.sourceId()).isOwn())
                .orElse(true);
    }

    /** Begins what waits for a dataset. */
    void begin(Of of, Instant now) {
        of.routes.forEach(route -> routes.dataChanged(route, now));
        of.matching.forEach(about -> people.dataChanged(about, now));
        if (of.counting) {
            audiences.dataChanged(now);
        }
    }

    /** Begins what waits for people: routes that read what matching and counting make. */
    void beginOfPeople(Instant now) {
        departing().forEach(route -> {
            boolean[] reads = {false};
            read(route, dataset -> reads[0] |= isMade(dataset));
            if (reads[0]) {
                routes.dataChanged(route.id(), now);
            }
        });
    }

    /** Begins again what failed, once it has been left alone for a while: the change that it was begun for has not arrived. */
    void beginFailed(Instant now, Instant before) {
        Set<Long> failed = Set.copyOf(jdbc.sql("""
                        select route_id from (select distinct on (route_id) route_id, state, trigger, finished_at from run
                          where route_id = any(?) order by route_id, id desc) latest
                        where state in ('FAILED', 'INTERRUPTED', 'SKIPPED') and trigger = 'TIMETABLE' and finished_at < ?
                        """)
                .params(
                        departing().stream()
                                .filter(route -> route.nextDeparture().isEmpty())
                                .map(Routes.Route::id)
                                .toArray(Long[]::new),
                        Rows.time(before))
                .query(Long.class)
                .list());
        failed.forEach(route -> routes.dataChanged(route, now));
        jdbc
                .sql("""
                        select about from (select distinct on (about) about, problem, finished_at from identity_run
                          order by about, id desc) latest
                        where problem <> '' and finished_at < ?
                        """)
                .param(Rows.time(before))
                .query((row, number) -> EntityType.valueOf(row.getString("about")))
                .list()
                .stream()
                .filter(about -> people.of(about).schedule() instanceof Schedule.OnChange
                        && people.of(about).nextRun().isEmpty())
                .forEach(about -> people.dataChanged(about, now));
    }
}

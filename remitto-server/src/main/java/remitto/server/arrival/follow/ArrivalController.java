package remitto.server.arrival.follow;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.arrival.Arrival;
import remitto.server.arrival.Arriving;
import remitto.server.dataset.Datasets;
import remitto.server.masking.PersonalValues;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;

/** What comes in from every source, as it comes in. */
@RestController
@RequestMapping("/api/arrivals")
class ArrivalController {
    private static final int SHOWN = 60;
    private static final int ROWS = 20;
    private static final int HOURS = 24;

    private final List<Arriving> kinds;
    private final ArrivalFollowing following;
    private final Datasets datasets;
    private final PersonalValues values;
    private final Clock clock;

    ArrivalController(
            List<Arriving> kinds, ArrivalFollowing following, Datasets datasets, PersonalValues values, Clock clock) {
        this.datasets = datasets;
        this.values = values;
        this.kinds = List.copyOf(kinds);
        this.following = following;
        this.clock = clock;
    }

    /**
     * The latest arrivals, the newest first, at most 60.
     *
     * @param kind of one kind alone; absent for every
     * @param source of one source alone; absent for every
     * @param troubled whether only those that do not fit are wanted
     * @param before only those that came in before this moment; absent for the latest
     */
    @GetMapping
    List<Arrival> arrivals(
            @RequestParam Optional<Arrival.Kind> kind,
            @RequestParam Optional<Long> source,
            @RequestParam(defaultValue = "false") boolean troubled,
            @RequestParam Optional<Instant> before) {
        Arriving.Wanted wanted = new Arriving.Wanted(source, troubled, before, SHOWN);
        List<Arrival> found = new ArrayList<>();
        kinds.stream()
                .filter(one -> kind.isEmpty() || one.kind() == kind.get())
                .forEach(one -> found.addAll(one.latest(wanted)));
        return found.stream()
                .sorted(Comparator.comparing(Arrival::at)
                        .reversed()
                        .thenComparing(Arrival::id, Comparator.reverseOrder()))
                .limit(SHOWN)
                .toList();
    }

    /**
     * How much came in for one receiver, file set or dataset.
     *
     * @param hours arrivals of each of the last 24 hours, the oldest first; the last one goes on
     */
    record ArrivalsOfSubject(Arrival.Kind kind, Arrival.Subject subject, long arrivals, List<Long> hours) {}

    /**
     * How much came in within 24 hours.
     *
     * @param arrivals all of them
     */
    record ArrivalSums(long arrivals, List<ArrivalsOfSubject> subjects) {}

    /** How much came in within the last 24 hours, the most first. What nothing came in for is left out. */
    @GetMapping("/sums")
    ArrivalSums arrivalSums() {
        Instant from = clock.instant().truncatedTo(ChronoUnit.HOURS).minus(Duration.ofHours(HOURS - 1L));
        List<ArrivalsOfSubject> subjects = new ArrayList<>();
        for (Arriving kind : kinds) {
            Map<Arrival.Subject, long[]> sums = new LinkedHashMap<>();
            for (Arriving.HourOfSubject one : kind.hours(from)) {
                int at = (int) Duration.between(from, one.hour()).toHours();
                if (at >= 0 && at < HOURS) {
                    sums.computeIfAbsent(one.subject(), fresh -> new long[HOURS])[at] += one.arrivals();
                }
            }
            sums.forEach((subject, hours) -> {
                List<Long> list = java.util.Arrays.stream(hours).boxed().toList();
                subjects.add(new ArrivalsOfSubject(
                        kind.kind(),
                        subject,
                        list.stream().mapToLong(Long::longValue).sum(),
                        list));
            });
        }
        subjects.sort(Comparator.comparingLong(ArrivalsOfSubject::arrivals).reversed());
        return new ArrivalSums(
                subjects.stream().mapToLong(ArrivalsOfSubject::arrivals).sum(), subjects);
    }

    /**
     * An arrival with its rows, followed on.
     *
     * @param columns of its rows
     * @param rows the first ones, at most 20
     * @param records that its rows are in datasets, and how far they came
     */
    record FollowedArrival(
            Arrival arrival,
            List<String> columns,
            @Personal List<List<Optional<String>>> rows,
            List<ArrivalFollowing.FollowedRecord> records) {}

    /** An arrival with the first rows that it brought, and the people, audiences and destinations that they reached. */
    @GetMapping("/{kind}/{id}")
    FollowedArrival followedArrival(@PathVariable Arrival.Kind kind, @PathVariable long id) {
        Arriving.ArrivedRows found = kinds.stream()
                .filter(one -> one.kind() == kind)
                .findFirst()
                .flatMap(one -> one.rows(id, ROWS))
                .orElseThrow(() -> Problem.notFound("arrival " + id));
        return new FollowedArrival(found.arrival(), found.columns(), shown(found), following.follow(found));
    }

    /** Columns that any dataset of the source calls sensitive are masked by their name. */
    private List<List<Optional<String>>> shown(Arriving.ArrivedRows found) {
        Set<String> sensitive =
                Set.copyOf(datasets.sensitiveColumns(found.arrival().subject().sourceId()));
        List<List<Optional<String>>> shown = new ArrayList<>();
        for (List<Optional<String>> row : found.rows()) {
            List<Optional<String>> cells = new ArrayList<>();
            for (int i = 0; i < row.size(); i++) {
                cells.add(
                        sensitive.contains(found.columns().get(i)) ? row.get(i).map(values::sensitive) : row.get(i));
            }
            shown.add(cells);
        }
        return shown;
    }
}

package remitto.server.observability;

import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** What the database tells of the work: for all processes together, as it stands now. */
@Component
class Measurements {
    private final JdbcClient jdbc;

    Measurements(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * One value of a metric.
     *
     * @param labels what tells it from others of its metric; ids and names of definitions, never of people
     */
    record Measurement(Map<String, String> labels, double value) {}

    /** A metric , and the question that answers it: a column for each label, and {@code value}. */
    record Metric(String name, String words, List<String> labels, String sql) {}

    static final List<Metric> ALL = List.of(
            new Metric(
                    "remitto.runs",
                    "Runs by their state",
                    List.of("state"),
                    "select state, count(*) as value from run group by state"),
            new Metric(
                    "remitto.lines.prepared",
                    "Records of all manifests so far by verdict; trials aside",
                    List.of("verdict"),
                    """
                    select verdict, sum(records) as value
                    from run, lateral (values ('added', added), ('changed', changed), ('removed', removed), ('unchanged', unchanged),
                      ('held', held), ('left-out', left_out)) as counted (verdict, records)
                    where trigger <> 'TRIAL' group by verdict
                    """),
            new Metric(
                    "remitto.lines.acknowledged",
                    "Records that destinations acknowledged so far",
                    List.of("destination"),
                    """
                    select d.name as destination, sum(q.records) as value
                    from answered_quarter q join run on run.id = q.run_id join route r on r.id = run.route_id
                      join destination d on d.id = r.destination_id
                    group by d.name
                    """),
            new Metric(
                    "remitto.records.held",
                    "Records that are held and wait for somebody",
                    List.of("route"),
                    "select r.name as route, count(distinct h.source_key) as value from held h join route r on r.id = h.route_id group by r.name"),
            new Metric(
                    "remitto.runs.oldest.waiting.seconds",
                    "Age of the oldest manifest that waits for somebody",
                    List.of(),
                    """
                    select coalesce(max(extract(epoch from clock_timestamp() - prepared_at)), 0) as value
                    from run where state in ('READY', 'AWAITING_APPROVAL', 'SUSPENDED')
                    """),
            new Metric(
                    "remitto.runs.lease.silent.seconds",
                    "Longest silence of a process at work on a run; above ten, another takes it over",
                    List.of(),
                    """
                    select coalesce(max(extract(epoch from clock_timestamp() - beat_at)), 0) as value
                    from run where state in ('PREPARING', 'SENDING')
                    """),
            new Metric(
                    "remitto.route.last.sent.seconds",
                    "Time since a route in service was last sent to the end, or found nothing to send",
                    List.of("route"),
                    """
                    select r.name as route, extract(epoch from clock_timestamp() - max(run.finished_at)) as value
                    from route r join run on run.route_id = r.id and run.state = 'SENT' and run.trigger <> 'TRIAL'
                    where r.live_version is not null and r.archived_at is null group by r.name
                    """),
            new Metric(
                    "remitto.destination.circuit.open",
                    "1 while the circuit of a destination is open, so that nothing is sent",
                    List.of("destination"),
                    """
                    select d.name as destination, (c.open_since is not null)::int as value
                    from destination d left join circuit c on c.destination_id = d.id where d.archived_at is null
                    """),
            new Metric(
                    "remitto.destination.rate.limit.wait.seconds",
                    "How long the next call to a destination has to wait for its rate limit",
                    List.of("destination"),
                    """
                    select d.name as destination, greatest(0, extract(epoch from l.next_at - clock_timestamp())) as value
                    from rate_limit l join destination d on d.id = l.destination_id where d.archived_at is null
                    """),
            new Metric(
                    "remitto.jobs.under.way",
                    "Jobs that somebody asked for and waits for",
                    List.of(),
                    "select count(*) as value from job where state = 'UNDER_WAY'"),
            new Metric(
                    "remitto.timetable.silent.seconds",
                    "Time since some process last looked at the timetable",
                    List.of(),
                    """
                    select coalesce(max(extract(epoch from clock_timestamp() - last_success)), 0) as value
                    from scheduled_tasks where task_name = 'departures'
                    """),
            new Metric(
                    "remitto.usage.month",
                    "Records acknowledged in this calendar month, in UTC",
                    List.of("destination"),
                    """
                    select d.name as destination, sum(q.records) as value
                    from answered_quarter q join run on run.id = q.run_id join route r on r.id = run.route_id
                      join destination d on d.id = r.destination_id
                    where q.quarter >= date_trunc('month', clock_timestamp() at time zone 'UTC') at time zone 'UTC'
                    group by d.name
                    """));

    List<Measurement> now(Metric metric) {
        return jdbc.sql(metric.sql())
                .query((row, number) -> {
                    Map<String, String> labels = new java.util.TreeMap<>();
                    for (String label : metric.labels()) {
                        labels.put(label, row.getString(label));
                    }
                    return new Measurement(labels, row.getDouble("value"));
                })
                .list();
    }
}

package remitto.server.people.resolution;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.route.RouteFault;
import remitto.server.people.EntityType;
import remitto.server.route.RouteAdvice;
import remitto.server.route.RouteBinder;

/** Warns that a route of single records sends one person more than once. */
@Component
class DoublesAdvice implements RouteAdvice {
    private final JdbcClient jdbc;

    DoublesAdvice(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private record Doubles(EntityType entityType, long persons, long records) {
        String whom() {
            return entityType == EntityType.PERSON
                    ? persons == 1 ? "person" : "people"
                    : persons == 1 ? "company" : "companies";
        }
    }

    @Override
    public List<RouteFault> about(long routeId, RouteBinder.RouteEnds ends) {
        List<RouteFault> faults = new ArrayList<>();
        within(ends.datasetId())
                .ifPresent(one -> faults.add(RouteFault.advice(
                        "",
                        "%,d %s %s more than one row in this dataset, %,d rows in all. Each row would become a record of its own. A route"
                                        .formatted(
                                                one.persons(),
                                                one.whom(),
                                                one.persons() == 1 ? "has" : "have",
                                                one.records())
                                + " on " + (one.entityType() == EntityType.PERSON ? "people" : "companies")
                                + " sends each once.")));
        jdbc.sql("""
                        with joined as (
                          select d.id, v.definition->'query'->>'text' like '%people.person%' as persons,
                            v.definition->'query'->>'text' like '%people.company%' as companies
                          from dataset d join source s on s.id = d.source_id and s.kind = 'people'
                          join dataset_version v on v.dataset_id = d.id and v.number = coalesce(d.live_version, d.latest_version)),
                        held as (
                          select dataset_id, person_id, about from identity_record
                          union
                          select j.id, p.id, p.about from joined j join person p
                            on j.persons and p.about = 'PERSON' or j.companies and p.about = 'COMPANY')
                        select r.name, d.name as dataset, count(distinct mine.person_id) as persons, min(mine.about) as about
                        from route r join dataset d on d.id = r.dataset_id
                        join held theirs on theirs.dataset_id = r.dataset_id
                        join held mine on mine.person_id = theirs.person_id and mine.dataset_id = :dataset
                        where r.destination_id = :destination and r.object = :object and r.id <> :route
                          and r.dataset_id <> :dataset
                        group by r.name, d.name order by r.name
                        """)
                .param("dataset", ends.datasetId())
                .param("destination", ends.destinationId())
                .param("object", ends.object())
                .param("route", routeId)
                .query((row, number) -> {
                    Doubles shared = new Doubles(EntityType.valueOf(row.getString("about")), row.getLong("persons"), 0);
                    return RouteFault.advice(
                            "",
                            "%,d %s %s also sent to this object by the route %s, as records of %s. Unless both routes match by the same field, each becomes two records."
                                    .formatted(
                                            shared.persons(),
                                            shared.whom(),
                                            shared.persons() == 1 ? "is" : "are",
                                            row.getString("name"),
                                            row.getString("dataset")));
                })
                .list()
                .forEach(faults::add);
        return faults;
    }

    private Optional<Doubles> within(long datasetId) {
        return jdbc.sql("""
                        select about, count(*) as persons, sum(records) as records from (
                          select about, count(*) as records from identity_record where dataset_id = ?
                          group by about, person_id having count(*) > 1) as doubled
                        group by about
                        """)
                .param(datasetId)
                .query((row, number) -> new Doubles(
                        EntityType.valueOf(row.getString("about")), row.getLong("persons"), row.getLong("records")))
                .optional();
    }
}

package remitto.server.arrival.follow;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Columns;
import remitto.core.known.Fingerprint;
import remitto.server.arrival.Arriving;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.landing.LandedSchema;
import remitto.server.people.person.SentTo;
import remitto.server.platform.Personal;

/** Follows rows that came in to the records, people, audiences and destinations that they reached. */
@Component
class ArrivalFollowing {
    private final Datasets datasets;
    private final SentTo sentTo;
    private final JdbcClient jdbc;

    ArrivalFollowing(Datasets datasets, SentTo sentTo, JdbcClient jdbc) {
        this.datasets = datasets;
        this.sentTo = sentTo;
        this.jdbc = jdbc;
    }

    /** An audience that a person is in. */
    record AudienceOfPerson(long id, String name) {}

    /**
     * A record in a destination, or one that is held on its way there.
     *
     * @param remoteId the destination's own id of it; blank while nothing was sent
     * @param held why it is held; blank if it is not
     */
    record ReachedRecord(
            long routeId,
            String route,
            long destinationId,
            String destination,
            String object,
            String remoteId,
            @Personal(Personal.Part.IN_TEXT) String held) {}

    /**
     * A row that came in, as a record of a dataset, and how far it came.
     *
     * @param key of the record in the dataset
     * @param person that the record was matched to; absent while matching has not run since, or where the dataset describes nobody
     * @param audiences that the person is in now
     * @param records of routes
     */
    record FollowedRecord(
            long datasetId,
            String dataset,
            @Personal(Personal.Part.KEY) String key,
            Optional<Long> person,
            List<AudienceOfPerson> audiences,
            List<ReachedRecord> records) {}

    List<FollowedRecord> follow(Arriving.ArrivedRows arrived) {
        List<FollowedRecord> followed = new ArrayList<>();
        if (arrived.table().isEmpty()) {
            return followed;
        }
        for (Datasets.Dataset dataset : datasets.all()) {
            List<String> keys = new Columns(dataset.definition().columns()).keys();
            if (reads(dataset, arrived.table())
                    && !keys.isEmpty()
                    && arrived.columns().containsAll(keys)) {
                arrived.rows().forEach(row -> key(arrived.columns(), keys, row)
                        .ifPresent(key -> followed.add(follow(dataset, key))));
            }
        }
        return followed;
    }

    private boolean reads(Datasets.Dataset dataset, String table) {
        DatasetDefinition definition = dataset.liveVersion()
                .filter(version -> version != dataset.latestVersion())
                .map(version -> datasets.version(dataset.id(), version))
                .orElse(dataset.definition());
        return LandedSchema.reads(definition.query(), table);
    }

    /** As a record's key is made of its cells; empty where one of them is. */
    private static Optional<String> key(List<String> columns, List<String> keys, List<Optional<String>> row) {
        List<String> parts = new ArrayList<>();
        for (String key : keys) {
            Optional<String> cell = row.get(columns.indexOf(key));
            if (cell.filter(text -> !text.isBlank()).isEmpty()) {
                return Optional.empty();
            }
            parts.add(cell.get());
        }
        return Optional.of(String.join("\t", parts));
    }

    private FollowedRecord follow(Datasets.Dataset dataset, String key) {
        Optional<Long> person = jdbc.sql("select person_id from identity_record where dataset_id = ? and key = ?")
                .params(dataset.id(), key)
                .query(Long.class)
                .optional();
        List<ReachedRecord> records = new ArrayList<>(ofRoutes(dataset.id(), key));
        person.ifPresent(id -> sentTo.sent(id).stream()
                .filter(one -> records.stream().noneMatch(known -> known.routeId() == one.routeId()))
                .forEach(one -> records.add(new ReachedRecord(
                        one.routeId(),
                        one.route(),
                        one.destinationId(),
                        one.destination(),
                        one.object(),
                        one.remoteId(),
                        ""))));
        return new FollowedRecord(
                dataset.id(),
                dataset.name(),
                key,
                person,
                person.map(this::audiences).orElse(List.of()),
                records);
    }

    private List<AudienceOfPerson> audiences(long person) {
        return jdbc.sql("""
                        select a.id, a.name from audience_member m join audience a on a.id = m.audience_id
                        where m.person_id = ? and m.until is null and not m.held_out order by a.name
                        """)
                .param(person)
                .query((row, number) -> new AudienceOfPerson(row.getLong("id"), row.getString("name")))
                .list();
    }

    private List<ReachedRecord> ofRoutes(long dataset, String key) {
        long[] hash = new Fingerprint().key(key);
        return jdbc.sql("""
                        select r.id, r.name, r.destination_id, t.name as destination, r.object,
                          coalesce(d.remote_id, '') as remote_id, coalesce(h.reason, '') as held
                        from route r join destination t on t.id = r.destination_id
                        join route_record e on e.route_id = r.id and e.key_high = :high and e.key_low = :low
                        left join record_state s on s.route_id = e.route_id and s.ordinal = e.ordinal
                        left join destination_record d on d.id = s.record_id
                        left join lateral (select h.reason from held h
                          where h.route_id = r.id and h.source_key = e.source_key order by h.last_seen desc limit 1) h on true
                        where r.dataset_id = :dataset and r.archived_at is null order by r.name
                        """)
                .param("high", hash[0])
                .param("low", hash[1])
                .param("dataset", dataset)
                .query((row, number) -> new ReachedRecord(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getLong("destination_id"),
                        row.getString("destination"),
                        row.getString("object"),
                        row.getString("remote_id"),
                        row.getString("held")))
                .list();
    }
}

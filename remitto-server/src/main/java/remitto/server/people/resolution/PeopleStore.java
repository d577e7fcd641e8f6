package remitto.server.people.resolution;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.identity.Earlier;
import remitto.core.identity.record.RecordRef;
import remitto.server.people.EntityType;
import remitto.server.platform.Rows;

/** What is known of persons and their records from run to run. */
@Component
public class PeopleStore {
    private static final int FETCH = 5_000;

    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final TransactionTemplate transactions;
    private final Clock clock;

    PeopleStore(JdbcClient jdbc, JdbcTemplate template, TransactionTemplate transactions, Clock clock) {
        this.jdbc = jdbc;
        this.template = template;
        this.transactions = transactions;
        this.clock = clock;
    }

    /** A record as it was found by the last run. */
    public record Stored(long person, long fingerprint, List<String> normalised, long signature) {}

    public Map<RecordRef, Stored> records(EntityType entityType) {
        Map<RecordRef, Stored> records = new HashMap<>();
        Map<Long, String> names = new HashMap<>();
        each(
                "select dataset_id, key, person_id, fingerprint, normalised, signature from identity_record where about = ?",
                entityType,
                row -> records.put(
                        ref(names, row),
                        new Stored(
                                row.getLong("person_id"),
                                row.getLong("fingerprint"),
                                Arrays.asList(
                                        (String[]) row.getArray("normalised").getArray()),
                                row.getLong("signature"))));
        return records;
    }

    private static RecordRef ref(Map<Long, String> names, ResultSet row) throws SQLException {
        String source = names.computeIfAbsent(row.getLong("dataset_id"), id -> Long.toString(id));
        return new RecordRef(source, row.getString("key"));
    }

    List<Earlier.ThenLink> links(EntityType entityType) {
        List<Earlier.ThenLink> links = new ArrayList<>();
        Map<Long, String> names = new HashMap<>();
        each(
                "select one_dataset, one_key, other_dataset, other_key, weight, rule from identity_link where about = ?",
                entityType,
                row -> links.add(new Earlier.ThenLink(
                        new RecordRef(
                                names.computeIfAbsent(row.getLong("one_dataset"), id -> Long.toString(id)),
                                row.getString("one_key")),
                        new RecordRef(
                                names.computeIfAbsent(row.getLong("other_dataset"), id -> Long.toString(id)),
                                row.getString("other_key")),
                        row.getFloat("weight"),
                        row.getInt("rule"))));
        return links;
    }

    private interface Sink {
        void take(ResultSet row) throws SQLException;
    }

    /** Streamed, which the driver does in a transaction only. */
    private void each(String query, EntityType entityType, Sink sink) {
        transactions.executeWithoutResult(status -> template.query(
                connection -> {
                    var statement = connection.prepareStatement(query);
                    statement.setFetchSize(FETCH);
                    statement.setString(1, entityType.name());
                    return statement;
                },
                row -> {
                    sink.take(row);
                }));
    }

    public Map<RecordRef, Long> personsByRecord(EntityType entityType) {
        Map<RecordRef, Long> persons = new HashMap<>();
        Map<Long, String> names = new HashMap<>();
        each(
                "select dataset_id, key, person_id from identity_record where about = ?",
                entityType,
                row -> persons.put(ref(names, row), row.getLong("person_id")));
        return persons;
    }

    /** Persons whose yes to something has expired since they were last looked at. */
    Set<Long> expired(EntityType entityType) {
        return new HashSet<>(jdbc.sql("select id from person where about = ? and expires_at <= ?")
                .params(entityType.name(), Rows.time(clock.instant()))
                .query(Long.class)
                .list());
    }

    /** The first id that was never given out, to a person or a company. */
    long nextPerson() {
        return jdbc.sql("""
                        select greatest((select coalesce(max(id), 0) from person),
                          (select coalesce(max(id), 0) from retired_person),
                          (select coalesce(max(person_id), 0) from person_event)) + 1
                        """).query(Long.class).single();
    }

    /** Records that somebody decided about since a moment. */
    Set<RecordRef> decidedSince(Instant since) {
        Set<RecordRef> decided = new HashSet<>();
        jdbc.sql("select * from identity_pin where decided_at >= ?")
                .param(Rows.time(since))
                .query(row -> {
                    decided.add(new RecordRef(Long.toString(row.getLong("one_dataset")), row.getString("one_key")));
                    decided.add(new RecordRef(Long.toString(row.getLong("other_dataset")), row.getString("other_key")));
                });
        return decided;
    }
}

package remitto.server.people.resolution;

import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.server.platform.ActorName;
import remitto.server.platform.Personal;
import remitto.server.platform.Rows;

/** What people decided about pairs of records. Nothing is taken away; the latest decision about a pair counts. */
@Component
public class Corrections {
    private final JdbcClient jdbc;
    private final Clock clock;

    Corrections(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** A record of a dataset that describes people. */
    public record PersonRecordRef(
            long datasetId, @Personal(Personal.Part.KEY) String key) {
        public RecordRef ref() {
            return new RecordRef(Long.toString(datasetId), key);
        }
    }

    /** Two records that somebody linked or kept apart. */
    public record Correction(
            PersonRecordRef one,
            PersonRecordRef other,
            boolean together,
            String reason,
            @ActorName String by,
            Instant at) {}

    /** The decisions that count. */
    public List<Correction> all() {
        return jdbc.sql("""
                        select distinct on (one_dataset, one_key, other_dataset, other_key)
                               one_dataset, one_key, other_dataset, other_key, together, reason, decided_by, decided_at
                        from identity_pin order by one_dataset, one_key, other_dataset, other_key, id desc
                        """)
                .query((row, number) -> new Correction(
                        new PersonRecordRef(row.getLong("one_dataset"), row.getString("one_key")),
                        new PersonRecordRef(row.getLong("other_dataset"), row.getString("other_key")),
                        row.getBoolean("together"),
                        row.getString("reason"),
                        row.getString("decided_by"),
                        Rows.time(row, "decided_at")))
                .list();
    }

    /** The decisions about records of a table, by their numbers in it. */
    public MatchOverrides overrides(RecordTable table) {
        Map<RecordRef, Integer> numbers = new HashMap<>();
        List<Correction> all = all();
        if (!all.isEmpty()) {
            for (int record = 0; record < table.size(); record++) {
                numbers.put(table.ref(record), record);
            }
        }
        MatchOverrides overrides = new MatchOverrides();
        all.forEach(one -> {
            Integer first = numbers.get(one.one().ref());
            Integer second = numbers.get(one.other().ref());
            if (first != null && second != null) {
                if (one.together()) {
                    overrides.together(first, second);
                } else {
                    overrides.apart(first, second);
                }
            }
        });
        return overrides;
    }

    /** The pair is kept with its lower record first, so that it is the same pair from both sides. */
    public void decide(PersonRecordRef one, PersonRecordRef other, boolean together, String reason, String who) {
        boolean inOrder = one.datasetId() < other.datasetId()
                || one.datasetId() == other.datasetId() && one.key().compareTo(other.key()) <= 0;
        PersonRecordRef first = inOrder ? one : other;
        PersonRecordRef second = inOrder ? other : one;
        jdbc.sql("""
                        insert into identity_pin
                          (one_dataset, one_key, other_dataset, other_key, together, reason, decided_by, decided_at)
                        values (?, ?, ?, ?, ?, ?, ?, ?)
                        """)
                .params(
                        first.datasetId(),
                        first.key(),
                        second.datasetId(),
                        second.key(),
                        together,
                        reason,
                        who,
                        Rows.time(clock.instant()))
                .update();
    }
}

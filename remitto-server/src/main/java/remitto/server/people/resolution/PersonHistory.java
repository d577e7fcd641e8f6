package remitto.server.people.resolution;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.identity.record.RecordRef;
import remitto.server.platform.CopyText;
import remitto.server.platform.Personal;
import remitto.server.platform.Rows;

/** What became of persons: joined, split, a record that came or went. */
@Component
public class PersonHistory {
    private static final int PART = 5_000;
    private static final int NAMED = 3;

    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final Clock clock;

    PersonHistory(JdbcClient jdbc, JdbcTemplate template, Clock clock) {
        this.jdbc = jdbc;
        this.template = template;
        this.clock = clock;
    }

    /** What can become of a person. */
    enum Kind {
        JOINED,
        SPLIT,
        RECORD_CAME,
        RECORD_LEFT,
        ENDED
    }

    /**
     * An entry of a person's history.
     *
     * @param other person it was about, where there is one
     */
    public record PersonEvent(
            Instant at,
            long runId,
            Kind kind,
            @Personal(Personal.Part.IN_TEXT) String words,
            Optional<Long> other) {}

    private record Fresh(long person, Kind kind, long other, String words) {}

    /** Nothing is told of the first matching run, in which everybody is new. */
    void write(long runId, FreshPeople fresh) {
        if (fresh.before().isEmpty()) {
            return;
        }
        Map<String, String> names = new HashMap<>();
        fresh.read().sources().forEach(one -> names.put(Long.toString(one.datasetId()), one.dataset()));
        List<Fresh> events = new ArrayList<>();
        moved(fresh, names, events);
        came(fresh, names, events);
        went(fresh, names, events);
        Instant now = clock.instant();
        CopyText copy = new CopyText();
        String into = "person_event (person_id, run_id, at, kind, other_id, words)";
        for (int i = 0; i < events.size(); i++) {
            Fresh one = events.get(i);
            copy.number(one.person())
                    .number(runId)
                    .text(now.toString())
                    .text(one.kind().name());
            if (one.other() == 0) {
                copy.none();
            } else {
                copy.number(one.other());
            }
            copy.text(one.words()).endRow();
            if (i % PART == PART - 1) {
                copy.load(template, into);
                copy = new CopyText();
            }
        }
        copy.load(template, into);
    }

    private static void moved(FreshPeople fresh, Map<String, String> names, List<Fresh> events) {
        Map<List<Long>, List<RecordRef>> moves = new LinkedHashMap<>();
        fresh.judged().stream().forEach(record -> {
            long before = fresh.had(record);
            long now = fresh.assigned().ids()[record];
            if (before != 0 && before != now) {
                moves.computeIfAbsent(List.of(before, now), pair -> new ArrayList<>())
                        .add(fresh.table().ref(record));
            }
        });
        moves.forEach((pair, refs) -> {
            long before = pair.get(0);
            long now = pair.get(1);
            String which = words(refs, names);
            if (now == fresh.assigned().retired().getOrDefault(before, 0L)) {
                events.add(new Fresh(now, Kind.JOINED, before, before + " became this one, with " + which));
                events.add(new Fresh(before, Kind.JOINED, now, "became " + now));
            } else {
                events.add(new Fresh(before, Kind.SPLIT, now, which + " went to " + now));
                events.add(new Fresh(now, Kind.SPLIT, before, which + " came from " + before));
            }
        });
    }

    private static void came(FreshPeople fresh, Map<String, String> names, List<Fresh> events) {
        fresh.judged().stream()
                .filter(record -> fresh.had(record) == 0)
                .forEach(record -> events.add(new Fresh(
                        fresh.assigned().ids()[record],
                        Kind.RECORD_CAME,
                        0,
                        words(List.of(fresh.table().ref(record)), names) + " came")));
    }

    private static void went(FreshPeople fresh, Map<String, String> names, List<Fresh> events) {
        fresh.gone().forEach(ref -> {
            long person = fresh.before().get(ref).person();
            boolean still = fresh.persons().containsKey(person);
            events.add(new Fresh(
                    person,
                    still ? Kind.RECORD_LEFT : Kind.ENDED,
                    0,
                    words(List.of(ref), names) + (still ? " is no more" : ", the last record, is no more")));
        });
    }

    private static String words(List<RecordRef> refs, Map<String, String> names) {
        StringBuilder words = new StringBuilder();
        for (int i = 0; i < Math.min(NAMED, refs.size()); i++) {
            RecordRef ref = refs.get(i);
            words.append(i == 0 ? "" : ", ")
                    .append(names.getOrDefault(ref.source(), "a dataset taken out"))
                    .append(' ')
                    .append(ref.key());
        }
        return words + (refs.size() > NAMED ? " and " + (refs.size() - NAMED) + " more" : "");
    }

    /** The latest first. */
    public List<PersonEvent> of(long person) {
        return jdbc.sql("select * from person_event where person_id = ? order by id desc limit 100")
                .param(person)
                .query((row, number) -> new PersonEvent(
                        Rows.time(row, "at"),
                        row.getLong("run_id"),
                        Kind.valueOf(row.getString("kind")),
                        row.getString("words"),
                        Rows.optionalLong(row, "other_id")))
                .list();
    }
}

package remitto.server.audience;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import remitto.core.audience.Condition;
import remitto.core.audience.Facts;
import remitto.core.audience.Vocabulary;
import remitto.core.audience.sql.Storage;
import remitto.core.dataset.ColumnType;
import remitto.core.value.Value;
import remitto.server.platform.Rows;

/** What is kept of one person, read when a condition asks for it. */
final class StoredFacts implements Facts {
    private final long person;
    private final Vocabulary words;
    private final Storage storage;
    private final JdbcClient jdbc;
    private final Map<String, List<Event>> events = new HashMap<>();
    private Optional<Map<String, Value>> attributes = Optional.empty();

    StoredFacts(long person, Vocabulary words, Storage storage, JdbcClient jdbc) {
        this.person = person;
        this.words = words;
        this.storage = storage;
        this.jdbc = jdbc;
    }

    boolean exists() {
        return is("select exists (select from " + storage.people() + " where person_id = ?)", person);
    }

    @Override
    public Value attribute(String name) {
        if (attributes.isEmpty()) {
            attributes = Optional.of(readAttributes());
        }
        return attributes.get().getOrDefault(name, Value.EMPTY);
    }

    private Map<String, Value> readAttributes() {
        Map<String, Value> values = new HashMap<>();
        jdbc.sql("select * from " + storage.people() + " where person_id = ?")
                .param(person)
                .query(row -> {
                    for (Map.Entry<String, ColumnType> one : words.attributes().entrySet()) {
                        values.put(one.getKey(), read(row.getString(one.getKey()), one.getValue()));
                    }
                });
        return values;
    }

    private static Value read(@Nullable String cell, ColumnType type) {
        return cell == null ? Value.EMPTY : type.read(cell);
    }

    @Override
    public List<Event> events(String name) {
        return events.computeIfAbsent(name, this::readEvents);
    }

    private List<Event> readEvents(String name) {
        Map<String, ColumnType> columns = words.columns(name);
        List<Event> all = new ArrayList<>();
        jdbc.sql("select e.* from " + storage.events().get(name) + " e join " + storage.links()
                        + " l on l.record_no = e.record_no where l.person_id = ?")
                .param(person)
                .query(row -> {
                    Map<String, Value> cells = new HashMap<>();
                    for (Map.Entry<String, ColumnType> one : columns.entrySet()) {
                        cells.put(one.getKey(), read(row.getString(one.getKey()), one.getValue()));
                    }
                    Instant at = Rows.time(row, "at");
                    all.add(new Event(row.getLong("event_no"), at, cells));
                });
        return all;
    }

    @Override
    public boolean isMember(long audience) {
        return is(
                "select exists (select from " + storage.members() + " where audience_id = ? and person_id = ?)",
                audience,
                person);
    }

    @Override
    public Condition.Answer answer(String purpose, String channel) {
        return jdbc.sql("select answer from " + storage.answers()
                        + " where person_id = ? and purpose = ? and channel = ?")
                .params(person, purpose, channel)
                .query(String.class)
                .optional()
                .map(Condition.Answer::valueOf)
                .orElse(Condition.Answer.NOT_ASKED);
    }

    @Override
    public boolean hasRecordIn(long dataset) {
        return is(
                "select exists (select from " + storage.records() + " where dataset_id = ? and person_id = ?)",
                dataset,
                person);
    }

    @Override
    public boolean wasSent(long route, Condition.SentState state) {
        return is(
                "select exists (select from " + storage.sent() + " where route_id = ? and person_id = ? and state = ?)",
                route,
                person,
                state.name());
    }

    private boolean is(String sql, Object... parameters) {
        return jdbc.sql(sql).params(parameters).query(Boolean.class).single();
    }
}

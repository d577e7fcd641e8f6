package remitto.e2e;

import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import remitto.core.audience.Condition;
import remitto.core.audience.Facts;
import remitto.core.audience.Vocabulary;
import remitto.core.audience.Window;
import remitto.core.audience.sql.Storage;
import remitto.core.dataset.ColumnType;
import remitto.core.value.Value;

/** Made-up people and events, the same in PostgreSQL and in memory, with much that lies on a boundary. */
final class AudienceWorld {
    static final List<String> PORTS = List.of("Tarva", "Ytre Holm", "Sandvær", "İnönü", "ΣΊΣΥΦΟΣ", "it's \"\\here\"");
    static final Vocabulary WORDS = new Vocabulary(
            Map.of(
                    "home_port", ColumnType.TEXT,
                    "score", ColumnType.DECIMAL,
                    "crossings", ColumnType.INTEGER,
                    "born", ColumnType.DATE,
                    "seen", ColumnType.TIMESTAMP,
                    "holder", ColumnType.BOOLEAN),
            Map.of(
                    "Crossings",
                            Map.of("line", ColumnType.TEXT, "price", ColumnType.DECIMAL, "cars", ColumnType.INTEGER),
                    "Bookings", Map.of("line", ColumnType.TEXT, "price", ColumnType.DECIMAL, "on", ColumnType.DATE)));
    static final Storage STORAGE = new Storage(
            "people",
            "links",
            Map.of("Crossings", "crossings", "Bookings", "bookings"),
            "members",
            "answers",
            "records",
            "sent");

    final Window.Now now;
    final Map<Long, Person> people = new HashMap<>();
    private final SplittableRandom random;

    AudienceWorld(long seed, int size) {
        random = new SplittableRandom(seed);
        ZoneId zone = ZoneId.of(List.of("Europe/Oslo", "America/St_Johns", "Pacific/Auckland", "UTC")
                .get(random.nextInt(4)));
        now = new Window.Now(
                Instant.parse("2026-03-25T00:00:00Z").plus(random.nextInt(14 * 24 * 60), ChronoUnit.MINUTES), zone);
        for (long id = 1; id <= size; id++) {
            people.put(id, person());
        }
    }

    /** All that is known of one of them. */
    record Person(
            Map<String, Value> attributes,
            Map<String, List<Event>> events,
            Set<Long> audiences,
            Map<String, Condition.Answer> answers,
            Set<Long> datasets,
            Set<String> sent)
            implements Facts {
        @Override
        public Value attribute(String name) {
            return attributes.getOrDefault(name, Value.EMPTY);
        }

        @Override
        public List<Event> events(String name) {
            return events.getOrDefault(name, List.of());
        }

        @Override
        public boolean isMember(long audience) {
            return audiences.contains(audience);
        }

        @Override
        public Condition.Answer answer(String purpose, String channel) {
            return answers.getOrDefault(purpose + " " + channel, Condition.Answer.NOT_ASKED);
        }

        @Override
        public boolean hasRecordIn(long dataset) {
            return datasets.contains(dataset);
        }

        @Override
        public boolean wasSent(long route, Condition.SentState state) {
            return sent.contains(route + " " + state);
        }
    }

    private Person person() {
        Map<String, Value> attributes = new HashMap<>();
        WORDS.attributes().forEach((name, type) -> attributes.put(name, value(type)));
        Map<String, List<Facts.Event>> events = new HashMap<>();
        WORDS.events().forEach((name, columns) -> {
            List<Facts.Event> all = new ArrayList<>();
            for (int i = random.nextInt(7); i > 0; i--) {
                Map<String, Value> cells = new HashMap<>();
                columns.forEach((column, type) -> cells.put(column, value(type)));
                all.add(new Facts.Event(random.nextInt(1_000_000), moment(), cells));
            }
            events.put(name, all);
        });
        Set<Long> audiences = new HashSet<>();
        Set<Long> datasets = new HashSet<>();
        Map<String, Condition.Answer> answers = new HashMap<>();
        Set<String> sent = new HashSet<>();
        for (long i = 1; i <= 2; i++) {
            if (random.nextBoolean()) {
                audiences.add(i);
            }
            if (random.nextBoolean()) {
                datasets.add(i);
            }
            if (random.nextBoolean()) {
                sent.add(i + " " + Condition.SentState.values()[random.nextInt(2)]);
            }
        }
        if (random.nextInt(3) > 0) {
            answers.put("news email", Condition.Answer.values()[random.nextInt(2)]);
        }
        return new Person(attributes, events, audiences, answers, datasets, sent);
    }

    Value value(ColumnType type) {
        if (random.nextInt(6) == 0) {
            return Value.EMPTY;
        }
        return switch (type) {
            case TEXT -> Value.text(PORTS.get(random.nextInt(PORTS.size())));
            case INTEGER -> Value.number(random.nextInt(6));
            case DECIMAL -> Value.number(new BigDecimal(number()));
            case BOOLEAN -> new Value.Truth(random.nextBoolean());
            case DATE -> new Value.Day(day());
            case TIMESTAMP -> new Value.Moment(moment());
        };
    }

    static final List<String> NUMBERS = List.of("-1", "0", "75", "75.000000001", "12.5", "30", "29.99", "0.333333");

    private String number() {
        return NUMBERS.get(random.nextInt(NUMBERS.size()));
    }

    LocalDate day() {
        return random.nextInt(8) == 0 ? LocalDate.of(2024, 2, 29) : now.today().minusDays(random.nextInt(45) - 8L);
    }

    /** Often the very beginning or end of a day of the zone. */
    Instant moment() {
        Instant start = now.startOf(now.today().minusDays(random.nextInt(45) - 5L));
        return switch (random.nextInt(4)) {
            case 0 -> start;
            case 1 -> start.minusNanos(1_000);
            case 2 -> now.instant();
            default -> start.plus(random.nextInt(1440), ChronoUnit.MINUTES);
        };
    }

    void store(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute("""
                    drop table if exists people, links, crossings, bookings, members, answers, records, sent;
                    create table people (person_id bigint, home_port text, score numeric, crossings bigint, born date,
                      seen timestamptz, holder boolean);
                    create table links (record_no bigint, person_id bigint);
                    create table crossings (event_no bigint, record_no bigint, at timestamptz, line text, price numeric,
                      cars bigint);
                    create table bookings (event_no bigint, record_no bigint, at timestamptz, line text, price numeric,
                      "on" date);
                    create table members (audience_id bigint, person_id bigint);
                    create table answers (person_id bigint, purpose text, channel text, answer text);
                    create table records (person_id bigint, dataset_id bigint);
                    create table sent (route_id bigint, person_id bigint, state text);
                    insert into links values (999, null);
                    insert into crossings values (1, 999, now(), 'Tarva', 1, 1);
                    """);
        }
        for (Map.Entry<Long, Person> one : people.entrySet()) {
            store(connection, one.getKey(), one.getValue());
        }
    }

    private static void store(Connection connection, long id, Person person) throws SQLException {
        Map<String, Value> a = person.attributes;
        insert(
                connection,
                "people values (?::bigint, ?, ?::numeric, ?::bigint, ?::date, ?::timestamptz, ?::boolean)",
                Value.number(id),
                a.get("home_port"),
                a.get("score"),
                a.get("crossings"),
                a.get("born"),
                a.get("seen"),
                a.get("holder"));
        // Two records a person, so that events come together over links.
        for (long record : new long[] {id * 2, id * 2 + 1}) {
            insert(connection, "links values (?::bigint, ?::bigint)", Value.number(record), Value.number(id));
        }
        for (Facts.Event event : person.events("Crossings")) {
            event(connection, "crossings", id, event, "bigint", "cars");
        }
        for (Facts.Event event : person.events("Bookings")) {
            event(connection, "bookings", id, event, "date", "on");
        }
        for (long audience : person.audiences) {
            insert(connection, "members values (?::bigint, ?::bigint)", Value.number(audience), Value.number(id));
        }
        for (long dataset : person.datasets) {
            insert(connection, "records values (?::bigint, ?::bigint)", Value.number(id), Value.number(dataset));
        }
        for (Map.Entry<String, Condition.Answer> answer : person.answers.entrySet()) {
            String[] parts = answer.getKey().split(" ");
            insert(
                    connection,
                    "answers values (?::bigint, ?, ?, ?)",
                    Value.number(id),
                    Value.text(parts[0]),
                    Value.text(parts[1]),
                    Value.text(answer.getValue().name()));
        }
        for (String sent : person.sent) {
            String[] parts = sent.split(" ");
            insert(
                    connection,
                    "sent values (?::bigint, ?::bigint, ?)",
                    Value.text(parts[0]),
                    Value.number(id),
                    Value.text(parts[1]));
        }
    }

    private static void event(
            Connection connection, String table, long person, Facts.Event event, String type, String last)
            throws SQLException {
        insert(
                connection,
                table + " values (?::bigint, ?::bigint, ?::timestamptz, ?, ?::numeric, ?::" + type + ")",
                Value.number(event.number()),
                Value.number(person * 2 + event.number() % 2),
                new Value.Moment(event.at()),
                event.columns().get("line"),
                event.columns().get("price"),
                event.columns().get(last));
    }

    private static void insert(Connection connection, String into, Value... values) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement("insert into " + into)) {
            for (int i = 0; i < values.length; i++) {
                statement.setString(i + 1, values[i].isEmpty() ? null : values[i].display());
            }
            statement.executeUpdate();
        }
    }
}

package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import remitto.core.audience.Condition;
import remitto.core.audience.InMemory;
import remitto.core.audience.Measure;
import remitto.core.audience.sql.AudienceSql;
import remitto.core.value.Value;
import remitto.demo.Databases;

/** The SQL of a condition and the same condition judged in memory take the same people. */
class AudienceAgreementTest {
    private static final int WORLDS = 25;
    private static final int CONDITIONS = 100;
    private static final int PEOPLE = 60;

    @Test
    void sqlAndMemoryTakeTheSamePeople() throws SQLException {
        Databases databases = new Databases(
                Optional.ofNullable(System.getenv("REMITTO_TEST_PG_URL")).orElseThrow(),
                System.getenv("REMITTO_TEST_PG_PASSWORD"));
        String database = "audience_test_" + ProcessHandle.current().pid();
        databases.fresh(database, "remitto");
        int some = 0;
        try (Connection connection = databases.owner(database);
                Statement statement = connection.createStatement()) {
            for (int seed = 1; seed <= WORLDS; seed++) {
                AudienceWorld world = new AudienceWorld(seed, PEOPLE);
                world.store(connection);
                RandomConditions conditions = new RandomConditions(seed, world);
                InMemory memory = new InMemory(world.now);
                AudienceSql sql = new AudienceSql(AudienceWorld.WORDS, AudienceWorld.STORAGE, world.now);
                List<Condition> all = new ArrayList<>();
                List<Long> sizes = new ArrayList<>(List.of((long) PEOPLE));
                for (int i = 0; i < CONDITIONS; i++) {
                    Condition condition = conditions.next(3);
                    Set<Long> inMemory = new TreeSet<>();
                    world.people.forEach((id, person) -> {
                        if (memory.holds(condition, person)) {
                            inMemory.add(id);
                        }
                    });
                    assertThat(ids(statement, sql.members(condition)))
                            .as("seed %d, condition %d: %s as %s", seed, i, condition, sql.members(condition))
                            .isEqualTo(inMemory);
                    if (!inMemory.isEmpty() && inMemory.size() < PEOPLE) {
                        some++;
                    }
                    if (i < 8) {
                        all.add(condition);
                        sizes.add((long) inMemory.size());
                    }
                    if (condition instanceof Condition.MeasureHolds measured) {
                        valuesAgree(statement, sql, memory, measured.measure(), world);
                    }
                }
                assertThat(numbers(statement, sql.counts(all))).isEqualTo(sizes);
            }
        }
        assertThat(some).as("conditions that take some people and leave others").isGreaterThan(WORLDS * CONDITIONS / 2);
    }

    private static void valuesAgree(
            Statement statement, AudienceSql sql, InMemory memory, Measure measure, AudienceWorld world)
            throws SQLException {
        try (ResultSet row = statement.executeQuery(sql.measure(measure))) {
            Set<Long> found = new TreeSet<>();
            while (row.next()) {
                found.add(row.getLong(1));
                String cell = row.getString(2);
                Value value = cell == null
                        ? Value.EMPTY
                        : measure.type(AudienceWorld.WORDS).read(cell);
                assertThat(value)
                        .as("%s of person %d", measure, row.getLong(1))
                        .isEqualTo(memory.measure(measure, world.people.get(row.getLong(1))));
            }
            world.people.forEach((id, person) -> {
                if (!found.contains(id)) {
                    assertThat(memory.measure(measure, person)).isEqualTo(measure.withoutEvents());
                }
            });
        }
    }

    private static Set<Long> ids(Statement statement, String sql) throws SQLException {
        Set<Long> ids = new TreeSet<>();
        try (ResultSet row = statement.executeQuery(sql)) {
            while (row.next()) {
                assertThat(ids.add(row.getLong(1))).as("each person once").isTrue();
            }
        }
        return ids;
    }

    private static List<Long> numbers(Statement statement, String sql) throws SQLException {
        List<Long> numbers = new ArrayList<>();
        try (ResultSet row = statement.executeQuery(sql)) {
            row.next();
            for (int i = 1; i <= row.getMetaData().getColumnCount(); i++) {
                numbers.add(row.getLong(i));
            }
        }
        return numbers;
    }
}

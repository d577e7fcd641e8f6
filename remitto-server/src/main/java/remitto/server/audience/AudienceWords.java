package remitto.server.audience;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.audience.Vocabulary;
import remitto.core.dataset.ColumnType;
import remitto.server.event.EventSets;
import remitto.server.masking.PersonalValues;
import remitto.server.measure.Measures;
import remitto.server.measure.Population;
import remitto.server.people.EntityType;
import remitto.server.people.person.PersonFacts;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;

/** What a condition can speak of, with the names people know it by. */
@Component
class AudienceWords {
    private static final int MOST = 60;

    private final PersonalValues personalValues;
    private final Population population;
    private final Measures measures;
    private final EventSets events;
    private final PersonFacts facts;
    private final JdbcClient jdbc;

    AudienceWords(
            PersonalValues personalValues,
            Population population,
            Measures measures,
            EventSets events,
            PersonFacts facts,
            JdbcClient jdbc) {
        this.personalValues = personalValues;
        this.population = population;
        this.measures = measures;
        this.events = events;
        this.facts = facts;
        this.jdbc = jdbc;
    }

    /**
     * An attribute or measure that conditions can use.
     *
     * @param measure whether it is worked out, over events or from other attributes
     */
    record AttributeWord(String name, ColumnType type, boolean measure) {}

    /** A column of events that conditions can use. */
    record ColumnWord(String name, ColumnType type) {}

    /** Events that conditions can use, with their columns. */
    record EventsWord(String name, List<ColumnWord> columns) {}

    /** Something with an id and a name. */
    record Named(long id, String name) {}

    /** A purpose and channel that conditions can use. */
    record PurposeWord(String purpose, String channel) {}

    /** What conditions can use: attributes, measures, events, audiences, datasets and routes. */
    record ConditionVocabulary(
            List<AttributeWord> attributes,
            List<EventsWord> events,
            List<Named> audiences,
            List<Named> datasets,
            List<Named> routes,
            List<PurposeWord> purposes) {}

    ConditionVocabulary of(EntityType entityType) {
        Vocabulary vocabulary = population.words(entityType);
        Set<String> worked = new HashSet<>();
        measures.all(entityType).forEach(measure -> worked.add(measure.name()));
        List<AttributeWord> attributes = new ArrayList<>();
        vocabulary
                .attributes()
                .forEach((name, type) -> attributes.add(new AttributeWord(name, type, worked.contains(name))));
        List<EventsWord> sets = new ArrayList<>();
        vocabulary
                .events()
                .forEach((name, columns) -> sets.add(new EventsWord(
                        name,
                        columns.entrySet().stream()
                                .map(one -> new ColumnWord(one.getKey(), one.getValue()))
                                .toList())));
        List<Named> datasets = new ArrayList<>();
        facts.datasets(entityType).forEach((id, name) -> datasets.add(new Named(id, name)));
        return new ConditionVocabulary(
                attributes,
                sets,
                named("select id, name from audience where about = '" + entityType + "' order by name"),
                datasets,
                named("select id, name from route where id in (select route_id from audience.sent) order by name"),
                jdbc.sql("select distinct purpose, channel from consent_answer order by 1, 2")
                        .query((row, number) -> new PurposeWord(row.getString("purpose"), row.getString("channel")))
                        .list());
    }

    private List<Named> named(String sql) {
        return jdbc.sql(sql)
                .query((row, number) -> new Named(row.getLong("id"), row.getString("name")))
                .list();
    }

    /** A value, and how many people or events have it. */
    record ValueWord(@Personal String value, long count) {}

    /**
     * Values that an attribute has, or a column of events if those are named; the most frequent first. Values that a few
     * people have are as good as names, so attributes that hardly two people share give none.
     */
    List<ValueWord> values(EntityType entityType, String eventsName, String name) {
        Vocabulary words = population.words(entityType);
        Map<String, Long> values;
        if (eventsName.isBlank()) {
            words.attribute(name);
            values = population.values(population.storage(entityType).people(), name, MOST);
        } else {
            words.column(eventsName, name);
            EventSets.EventSet set = events.all().stream()
                    .filter(one -> one.name().equals(eventsName))
                    .findFirst()
                    .orElseThrow(() -> Problem.notFound("set of events " + eventsName));
            values = population.values(set.table(), name, MOST);
        }
        boolean sensitive = eventsName.isBlank()
                && facts.kept(entityType).stream().anyMatch(one -> one.name().equals(name) && one.sensitive());
        List<ValueWord> list = new ArrayList<>();
        values.forEach((value, count) -> {
            if (!eventsName.isBlank() || count > 1) {
                list.add(new ValueWord(sensitive ? personalValues.sensitive(value) : value, count));
            }
        });
        return list;
    }
}

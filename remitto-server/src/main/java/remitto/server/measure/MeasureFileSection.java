package remitto.server.measure;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.event.EventSets;
import remitto.server.people.person.PersonFileSection;

/** Events of a person, and what was worked out of them. */
@Component
class MeasureFileSection implements PersonFileSection {
    private static final int MOST = 5_000;

    private final Measures measures;
    private final EventSets events;
    private final JdbcClient jdbc;

    MeasureFileSection(Measures measures, EventSets events, JdbcClient jdbc) {
        this.measures = measures;
        this.events = events;
        this.jdbc = jdbc;
    }

    @Override
    public int place() {
        return 2;
    }

    @Override
    public List<FileTable> of(long person) {
        List<FileTable> tables = new ArrayList<>();
        List<List<String>> values = new ArrayList<>();
        measures.all().forEach(measure -> jdbc.sql(
                        "select value::text from " + measure.table() + " where person_id = ? and value is not null")
                .param(person)
                .query(String.class)
                .optional()
                .ifPresent(value -> values.add(List.of(measure.name(), value))));
        tables.add(
                new FileTable("Measures", "Worked out from the person's events.", List.of("measure", "value"), values));
        events.all().forEach(set -> tables.add(events(set, person)));
        return tables;
    }

    private FileTable events(EventSets.EventSet set, long person) {
        List<String> columns = new ArrayList<>(List.of("at"));
        set.columns().forEach(column -> columns.add(column.name()));
        String list = columns.stream()
                .map(column -> "coalesce(e." + Population.quoted(column) + "::text, '')")
                .collect(Collectors.joining(", "));
        return new FileTable(
                "Events: " + set.name(),
                "Kept so that measures and audiences can be worked out" + " (the latest " + MOST + ").",
                columns,
                jdbc.sql("select " + list + " from " + set.table()
                                + " e join audience.record r on r.record_no = e.record_no"
                                + " where r.person_id = ? order by e.at desc limit " + MOST)
                        .param(person)
                        .query((row, number) -> {
                            List<String> texts = new ArrayList<>();
                            for (int i = 1; i <= columns.size(); i++) {
                                texts.add(row.getString(i));
                            }
                            return List.copyOf(texts);
                        })
                        .list());
    }
}

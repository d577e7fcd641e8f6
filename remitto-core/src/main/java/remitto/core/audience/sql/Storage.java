package remitto.core.audience.sql;

import java.util.Map;
import remitto.core.audience.AudienceFault;

/**
 * Where things are kept; names as they stand in SQL.
 *
 * @param people one row a person: person_id, and a column for every attribute and measure
 * @param links whose a record is: record_no, person_id
 * @param events by name: event_no, record_no, at, and a column for every column of the events
 * @param members of audiences now: audience_id, person_id
 * @param answers the answer that counts: person_id, purpose, channel, answer (YES or NO)
 * @param records of people: person_id, dataset_id
 * @param sent by routes: route_id, person_id, state
 */
public record Storage(
        String people,
        String links,
        Map<String, String> events,
        String members,
        String answers,
        String records,
        String sent) {
    public Storage {
        events = Map.copyOf(events);
    }

    String eventsOf(String name) {
        String table = events.get(name);
        if (table == null) {
            throw new AudienceFault("No events have the name \"" + name + "\".");
        }
        return table;
    }
}

package remitto.server.event;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import remitto.core.dataset.ColumnRole;
import remitto.server.people.view.PersonViews;

/** Events with the person each belongs to, for datasets and look-ups. */
@Component
class EventViews implements PersonViews {
    private final EventTables tables;

    EventViews(EventTables tables) {
        this.tables = tables;
    }

    @Override
    public List<AddedView> views() {
        return tables.all().stream().map(EventViews::view).toList();
    }

    private static AddedView view(EventTables.EventTable table) {
        StringBuilder columns = new StringBuilder();
        Map<String, ColumnRole> roles = new HashMap<>(Map.of("event_no", ColumnRole.KEY, "at", ColumnRole.EVENT_TIME));
        table.columns().stream()
                .filter(name -> !name.equalsIgnoreCase("person_id"))
                .forEach(name -> {
                    columns.append(", e.").append(EventSets.quoted(name));
                    if (table.sensitive().contains(name)) {
                        roles.put(name, ColumnRole.SENSITIVE);
                    }
                });
        return new AddedView(
                table.view(),
                "select e.event_no, r.person_id, e.at" + columns + " from audience.events_" + table.id()
                        + " e join audience.record r on r.record_no = e.record_no where r.person_id is not null",
                roles);
    }
}

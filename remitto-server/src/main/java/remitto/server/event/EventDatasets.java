package remitto.server.event;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.server.dataset.DatasetMaker;
import remitto.server.dataset.MadeDatasets;
import remitto.server.people.person.PersonFacts;
import remitto.server.platform.Problem;

/** Events as rows that belong to a person: what a route looks up a person's latest bookings in. */
@Component
public class EventDatasets implements DatasetMaker {
    /** Names the person in every such dataset. */
    public static final String PERSON = "person_id";

    private final EventTables tables;
    private final MadeDatasets made;
    private final PersonFacts facts;

    EventDatasets(EventTables tables, MadeDatasets made, PersonFacts facts) {
        this.tables = tables;
        this.made = made;
        this.facts = facts;
    }

    @Override
    public MadeDatasets.MadeOf of() {
        return MadeDatasets.MadeOf.EVENTS;
    }

    @Override
    public long make(long id, List<Column> columns, String who) {
        facts.refreshViews();
        return made.add(request(table(id)), columns, who);
    }

    /** The dataset over the events of a set, made when it is first asked for. */
    public long dataset(long set, String who) {
        Optional<Long> there = made.find(MadeDatasets.MadeOf.EVENTS, set);
        if (there.isPresent()) {
            return there.get();
        }
        EventTables.EventTable table = table(set);
        MadeDatasets.MadeDatasetRequest request = request(table);
        facts.refreshViews();
        return made.add(request, described -> roles(table, described), who);
    }

    private EventTables.EventTable table(long set) {
        return tables.all().stream()
                .filter(one -> one.id() == set)
                .findFirst()
                .orElseThrow(() -> Problem.notFound("set of events " + set));
    }

    private MadeDatasets.MadeDatasetRequest request(EventTables.EventTable table) {
        long source = facts.source()
                .orElseThrow(() -> Problem.invalid(
                        "Set up the source of people first; the operations guide describes its login."));
        return new MadeDatasets.MadeDatasetRequest(
                MadeDatasets.MadeOf.EVENTS,
                table.id(),
                table.name() + " of people",
                "Events as they were read last, with the person each belongs to",
                source,
                "select * from people." + table.view());
    }

    private static List<Column> roles(EventTables.EventTable table, List<Column> described) {
        Map<String, ColumnRole> own =
                Map.of("event_no", ColumnRole.KEY, PERSON, ColumnRole.IDENTIFIER, "at", ColumnRole.EVENT_TIME);
        return described.stream()
                .map(column -> new Column(
                        column.name(),
                        column.type(),
                        own.getOrDefault(
                                column.name(),
                                table.sensitive().contains(column.name())
                                        ? ColumnRole.SENSITIVE
                                        : ColumnRole.ATTRIBUTE)))
                .toList();
    }
}

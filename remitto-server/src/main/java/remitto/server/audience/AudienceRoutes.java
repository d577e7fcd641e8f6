package remitto.server.audience;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.server.dataset.MadeDatasets;
import remitto.server.people.EntityType;
import remitto.server.people.person.PersonFacts;
import remitto.server.platform.Problem;

/** How an audience becomes something a route can send. */
@Component
class AudienceRoutes {
    private final JdbcClient jdbc;
    private final MadeDatasets datasets;
    private final PersonFacts facts;

    AudienceRoutes(JdbcClient jdbc, MadeDatasets datasets, PersonFacts facts) {
        this.jdbc = jdbc;
        this.datasets = datasets;
        this.facts = facts;
    }

    /**
     * A route that sends an audience.
     *
     * @param runId of its latest run; absent when it never run
     */
    record AudienceRoute(
            long id, String name, long destinationId, String destination, String object, Optional<Long> runId) {}

    /** The dataset that was made of an audience. */
    record AudienceDataset(long id, String name) {}

    List<AudienceRoute> of(long audience) {
        return jdbc.sql("""
                        select r.id, r.name, r.destination_id, t.name as destination, coalesce(o.title, r.object) as object,
                          (select max(u.id) from run u where u.route_id = r.id and u.trigger in ('HAND', 'TIMETABLE')) as run_id
                        from route r join dataset d on d.id = r.dataset_id and d.audience_id = ?
                        join destination t on t.id = r.destination_id
                        left join destination_object o on o.destination_id = r.destination_id and o.object = r.object
                        order by r.name
                        """)
                .param(audience)
                .query((row, number) -> {
                    long run = row.getLong("run_id");
                    return new AudienceRoute(
                            row.getLong("id"),
                            row.getString("name"),
                            row.getLong("destination_id"),
                            row.getString("destination"),
                            row.getString("object"),
                            row.wasNull() ? Optional.empty() : Optional.of(run));
                })
                .list();
    }

    /**
     * The columns that a route of the audience can send.
     *
     * @param datasetId of the dataset that was made of it; absent while no route sends it
     */
    record AudienceColumns(Optional<Long> datasetId, List<Column> columns) {}

    /** Makes nothing: what a dataset of the audience has, or would have. */
    AudienceColumns columns(Audiences.Audience audience) {
        return new AudienceColumns(
                made(audience).map(AudienceDataset::id),
                datasets.columns(source(), sql(audience), described -> columns(audience.entityType(), described)));
    }

    private Optional<AudienceDataset> made(Audiences.Audience audience) {
        return jdbc.sql("select id, name from dataset where audience_id = ?")
                .param(audience.id())
                .query((row, number) -> new AudienceDataset(row.getLong("id"), row.getString("name")))
                .optional();
    }

    private long source() {
        return facts.source()
                .orElseThrow(() -> Problem.invalid(
                        "Set up the source of people first; the operations guide describes its login."));
    }

    private static String sql(Audiences.Audience audience) {
        String view = audience.entityType() == EntityType.PERSON ? "people.person" : "people.company";
        return "select p.*, m.since as member_since\nfrom " + view
                + " p\njoin people.audience_member m on m.person_id = p.person_id\n"
                + "where m.audience_id = " + audience.id() + " and not m.held_out";
    }

    AudienceDataset dataset(Audiences.Audience audience, String who) {
        Optional<AudienceDataset> there = made(audience);
        if (there.isPresent()) {
            return there.get();
        }
        MadeDatasets.MadeDatasetRequest request = request(audience);
        long id = datasets.add(request, described -> columns(audience.entityType(), described), who);
        return new AudienceDataset(id, request.name());
    }

    /** Makes the dataset with columns that are known. */
    long dataset(Audiences.Audience audience, List<Column> columns, String who) {
        return datasets.add(request(audience), columns, who);
    }

    private MadeDatasets.MadeDatasetRequest request(Audiences.Audience audience) {
        return new MadeDatasets.MadeDatasetRequest(
                MadeDatasets.MadeOf.AUDIENCE,
                audience.id(),
                "Audience: " + audience.name(),
                "The people of this audience by its latest count",
                source(),
                sql(audience));
    }

    private List<Column> columns(EntityType entityType, List<Column> described) {
        Map<String, ColumnRole> roles = new HashMap<>(facts.roles());
        roles.put("person_id", ColumnRole.KEY);
        roles.put("member_since", ColumnRole.ATTRIBUTE);
        List<Column> columns = new ArrayList<>();
        for (Column column : described) {
            ColumnRole role = roles.getOrDefault(column.name(), ColumnRole.ATTRIBUTE);
            columns.add(new Column(column.name(), column.type(), role));
        }
        return columns;
    }
}

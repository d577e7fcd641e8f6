package remitto.server.people.view;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.identity.record.Attribute;
import remitto.server.dataset.ColumnOrigins;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.people.EntityType;
import remitto.server.people.source.PeopleSources;

/** What the columns of people mean, by what they are tied to. */
@Component
public class PeopleColumns implements ColumnOrigins {
    private final PeopleViews views;
    private final PeopleSources sources;
    private final Datasets datasets;
    private final List<PersonColumns> added;
    private final List<PersonViews> beside;

    PeopleColumns(
            PeopleViews views,
            PeopleSources sources,
            Datasets datasets,
            List<PersonColumns> added,
            List<PersonViews> beside) {
        this.beside = List.copyOf(beside);
        this.views = views;
        this.sources = sources;
        this.datasets = datasets;
        this.added = List.copyOf(added);
    }

    @Override
    public Map<String, ColumnRole> roles(long sourceId) {
        if (!views.sourceId().equals(Optional.of(sourceId))) {
            return Map.of();
        }
        Map<String, ColumnRole> roles = new TreeMap<>();
        roles.put("person_id", ColumnRole.KEY);
        roles.put("changed_at", ColumnRole.UPDATED_AT);
        roles.put("address_key", ColumnRole.KEY);
        roles.put("address", ColumnRole.IDENTIFIER);
        for (EntityType entityType : EntityType.values()) {
            sources.all(entityType).forEach(source -> add(source, roles));
            added.forEach(one -> one.columns(entityType).stream().forEach(column -> {
                boolean sensitive = column.from().stream().anyMatch(name -> roles.get(name) == ColumnRole.SENSITIVE);
                if (sensitive || column.role() != ColumnRole.ATTRIBUTE) {
                    roles.put(column.name(), sensitive ? ColumnRole.SENSITIVE : column.role());
                }
            }));
        }
        beside.forEach(one -> one.views().forEach(view -> view.roles().forEach((name, role) -> {
            if (role == ColumnRole.SENSITIVE) {
                roles.put(name, role);
            } else {
                roles.putIfAbsent(name, role);
            }
        })));
        return roles;
    }

    private void add(PeopleSources.PeopleSource source, Map<String, ColumnRole> roles) {
        Map<String, ColumnRole> there = new HashMap<>();
        columns(source.datasetId()).forEach(column -> there.put(column.name(), column.role()));
        source.columns().forEach(tied -> {
            if (there.get(tied.column()) == ColumnRole.SENSITIVE) {
                roles.put(tied.attribute(), ColumnRole.SENSITIVE);
            } else {
                role(tied.kind()).ifPresent(role -> roles.putIfAbsent(tied.attribute(), role));
            }
        });
    }

    private List<Column> columns(long datasetId) {
        Datasets.Dataset dataset = datasets.get(datasetId);
        DatasetDefinition definition =
                datasets.version(datasetId, dataset.liveVersion().orElse(dataset.latestVersion()));
        return definition.columns();
    }

    private static Optional<ColumnRole> role(Attribute.Kind kind) {
        return switch (kind) {
            case EMAIL, PHONE, IDENTIFIER, DOMAIN -> Optional.of(ColumnRole.IDENTIFIER);
            case CONSENT -> Optional.of(ColumnRole.CONSENT);
            default -> Optional.empty();
        };
    }
}

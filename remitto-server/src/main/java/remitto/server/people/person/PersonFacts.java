package remitto.server.people.person;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.identity.record.Attribute;
import remitto.server.people.EntityType;
import remitto.server.people.source.PeopleSources;
import remitto.server.people.view.PeopleColumns;
import remitto.server.people.view.PeopleViews;

/** What is kept of every person or company, as others may ask about it. */
@Component
public class PersonFacts {
    private final PeopleSources sources;
    private final PeopleColumns columns;
    private final PeopleViews views;

    PersonFacts(PeopleSources sources, PeopleColumns columns, PeopleViews views) {
        this.sources = sources;
        this.columns = columns;
        this.views = views;
    }

    /**
     * An attribute that is kept.
     *
     * @param value an expression over {@code p}, a row of {@code person}; null where there is none
     * @param sensitive whether it may not leave in the clear
     */
    public record Kept(String name, ColumnType type, Attribute.Kind kind, String value, boolean sensitive) {}

    /** Each attribute once; the earlier source decides what it is. */
    public List<Kept> kept(EntityType entityType) {
        Map<String, ColumnRole> roles = roles();
        List<Kept> kept = new ArrayList<>();
        for (Attribute attribute : sources.attributes(entityType)) {
            if (kept.stream().noneMatch(one -> one.name().equals(attribute.name()))) {
                kept.add(new Kept(
                        attribute.name(),
                        type(attribute.kind()),
                        attribute.kind(),
                        PeopleViews.typed(attribute),
                        roles.get(attribute.name()) == ColumnRole.SENSITIVE));
            }
        }
        return kept;
    }

    private static ColumnType type(Attribute.Kind kind) {
        return switch (kind) {
            case BIRTH_DATE -> ColumnType.DATE;
            case CONSENT -> ColumnType.BOOLEAN;
            case NUMBER -> ColumnType.DECIMAL;
            default -> ColumnType.TEXT;
        };
    }

    /** Datasets that describe them, in their order: id and name. */
    public Map<Long, String> datasets(EntityType entityType) {
        Map<Long, String> names = new LinkedHashMap<>();
        sources.all(entityType).forEach(source -> names.put(source.datasetId(), source.dataset()));
        return names;
    }

    /** Whom the records of a dataset describe; empty when they describe nobody. */
    public Optional<EntityType> describes(long dataset) {
        for (EntityType entityType : EntityType.values()) {
            if (datasets(entityType).containsKey(dataset)) {
                return Optional.of(entityType);
            }
        }
        return Optional.empty();
    }

    /** An address of a record: what it is, and where it stands among the normalised values, from 1. */
    public record AddressPlace(String attribute, Attribute.Kind kind, int place) {}

    /** Addresses that people are reached at. */
    public List<AddressPlace> addresses(EntityType entityType) {
        List<AddressPlace> places = new ArrayList<>();
        List<Attribute> attributes = sources.attributes(entityType);
        for (int i = 0; i < attributes.size(); i++) {
            Attribute one = attributes.get(i);
            if (one.kind() == Attribute.Kind.EMAIL || one.kind() == Attribute.Kind.PHONE) {
                places.add(new AddressPlace(one.name(), one.kind(), i + 1));
            }
        }
        return places;
    }

    /** The source that datasets over people are made from. */
    public Optional<Long> source() {
        return views.sourceId();
    }

    /** Lets go of columns that are about to be no more; {@link #refreshViews} makes the views again. */
    public void dropViews() {
        views.drop();
    }

    /** What the columns of people mean, by name. */
    public Map<String, ColumnRole> roles() {
        return views.sourceId().map(columns::roles).orElseGet(Map::of);
    }

    /** Makes the views of people again where their columns are others by now. */
    public void refreshViews() {
        views.refresh();
    }
}

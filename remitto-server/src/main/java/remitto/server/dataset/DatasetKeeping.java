package remitto.server.dataset;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.Columns;
import remitto.core.expectation.ExpectationFaults;
import remitto.core.expectation.Loosened;
import remitto.server.journal.Journal;
import remitto.server.permission.SecondPerson;
import remitto.server.platform.Problem;
import remitto.server.source.OwnSql;
import remitto.server.source.Sources;

/** Saving datasets and putting them in service: checked and written in the journal, by whatever way somebody asks for it. */
@Component
class DatasetKeeping {
    private final Datasets datasets;
    private final DatasetQueries queries;
    private final List<ColumnOrigins> origins;
    private final OwnSql ownSql;
    private final Sources sources;
    private final Journal journal;
    private final ApplicationEventPublisher events;
    private final SecondPerson secondPerson;

    DatasetKeeping(
            Datasets datasets,
            DatasetQueries queries,
            List<ColumnOrigins> origins,
            OwnSql ownSql,
            Sources sources,
            Journal journal,
            ApplicationEventPublisher events,
            SecondPerson secondPerson) {
        this.secondPerson = secondPerson;
        this.events = events;
        this.datasets = datasets;
        this.queries = queries;
        this.origins = origins;
        this.ownSql = ownSql;
        this.sources = sources;
        this.journal = journal;
    }

    /** What a version of a dataset is to say. */
    record Wanted(String name, String description, long sourceId, DatasetDefinition definition) {}

    long add(Wanted wanted, String who) {
        check(wanted);
        long id =
                datasets.add(wanted.name().strip(), wanted.description(), wanted.sourceId(), wanted.definition(), who);
        journal.write(who, "saved dataset", new Journal.Subject("dataset", id, wanted.name()), "version 1");
        return id;
    }

    /** @throws Problem if somebody saved another version since {@code basedOn} */
    void save(long id, int basedOn, Wanted wanted, Datasets.Saving saving) {
        check(wanted);
        int version =
                datasets.save(id, basedOn, wanted.name().strip(), wanted.description(), wanted.definition(), saving);
        journal.write(
                saving.author(),
                "saved dataset",
                new Journal.Subject("dataset", id, wanted.name()),
                "version " + version);
    }

    void putInService(long id, int version, String who) {
        queries.parse(datasets.get(id).sourceId(), datasets.version(id, version));
        putInServiceUnasked(id, version, who);
    }

    /** The same without asking the source whether it understands the query. */
    void putInServiceUnasked(long id, int version, String who) {
        Datasets.Dataset before = datasets.get(id);
        DatasetDefinition definition = datasets.version(id, version);
        List<String> loosened = before.liveVersion()
                .map(live -> Loosened.of(datasets.version(id, live).expectations(), definition.expectations()))
                .orElse(List.of());
        if (!loosened.isEmpty()) {
            secondPerson.require(
                    "This version no longer expects that " + String.join(", nor that ", loosened) + ".",
                    datasets.author(id, version),
                    who);
            journal.write(
                    who,
                    "loosened expectations",
                    new Journal.Subject("dataset", id, before.name()),
                    String.join(", ", loosened));
        }
        datasets.putInService(id, version);
        events.publishEvent(new DatasetInService(id, definition));
        journal.write(
                who,
                "put dataset in service",
                new Journal.Subject("dataset", id, datasets.get(id).name()),
                "version " + version + "; routes: " + String.join(", ", datasets.routes(id)));
    }

    /** Roles of columns whose meaning is known already, by name. */
    Map<String, ColumnRole> roles(long sourceId) {
        Map<String, ColumnRole> roles = new TreeMap<>();
        origins.forEach(one -> roles.putAll(one.roles(sourceId)));
        return roles;
    }

    private void check(Wanted wanted) {
        if (wanted.name().isBlank()) {
            throw Problem.invalid("Give the dataset a name.");
        }
        Columns columns = new Columns(wanted.definition().columns());
        if (columns.keys().isEmpty()) {
            throw Problem.invalid("Choose at least one key column; without a key no record can be followed.");
        }
        ownSql.require();
        sources.check(wanted.sourceId(), wanted.definition().query().asked());
        Map<String, ColumnRole> roles = roles(wanted.sourceId());
        columns.list().stream()
                .filter(column ->
                        roles.get(column.name()) == ColumnRole.SENSITIVE && column.role() != ColumnRole.SENSITIVE)
                .findFirst()
                .ifPresent(column -> {
                    throw Problem.invalid(
                            "Column " + column.name() + " comes from one that is sensitive, and so is sensitive too.");
                });
        List<String> faults = ExpectationFaults.of(wanted.definition().expectations(), columns);
        if (!faults.isEmpty()) {
            throw Problem.invalid(String.join(" ", faults));
        }
        List<String> gone = columns.list().stream()
                .map(Column::name)
                .filter(name -> name.isBlank() || name.toLowerCase(Locale.ROOT).equals("?column?"))
                .toList();
        if (!gone.isEmpty()) {
            throw Problem.invalid("Every column needs a name; give the computed one an alias.");
        }
    }
}

package remitto.server.people.overview;

import org.springframework.stereotype.Component;
import remitto.server.dataset.Datasets;
import remitto.server.journal.Journal;
import remitto.server.people.EntityType;
import remitto.server.people.source.PeopleSources;
import remitto.server.people.view.PeopleViews;

/** Mapping datasets to people: written in the journal, by whatever way somebody asks for it. */
@Component
class PeopleSourceKeeping {
    private final PeopleSources sources;
    private final PeopleViews views;
    private final Datasets datasets;
    private final Journal journal;

    PeopleSourceKeeping(PeopleSources sources, PeopleViews views, Datasets datasets, Journal journal) {
        this.sources = sources;
        this.views = views;
        this.datasets = datasets;
        this.journal = journal;
    }

    void tie(long datasetId, PeopleSources.ColumnMapping mapping, String who) {
        sources.tie(datasetId, mapping, who);
        views.refresh();
        note(who, "mapped columns of people", datasetId);
    }

    /** @param place from 0 */
    void move(EntityType entityType, long datasetId, int place, String who) {
        sources.move(entityType, datasetId, place);
        note(who, "changed the order of people's sources", datasetId);
    }

    void untie(long datasetId, String who) {
        sources.untie(datasetId);
        views.refresh();
        note(who, "removed dataset from people", datasetId);
    }

    private void note(String who, String what, long datasetId) {
        journal.write(
                who,
                what,
                new Journal.Subject(
                        "dataset", datasetId, datasets.get(datasetId).name()),
                "");
    }
}

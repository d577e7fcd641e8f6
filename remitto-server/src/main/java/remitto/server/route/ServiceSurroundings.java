package remitto.server.route;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Columns;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.route.RouteSpec;
import remitto.core.route.Surroundings;
import remitto.core.shaper.CrosswalkTable;
import remitto.core.shaper.Crosswalked;
import remitto.core.shaper.Stores;
import remitto.server.crosswalk.Crosswalks;
import remitto.server.dataset.DatasetLookUps;
import remitto.server.platform.Json;
import remitto.server.secret.HashKeys;

/** What rules reach for beyond their route, as it is in service. */
@Component
class ServiceSurroundings implements Surroundings, Stores {
    private final Crosswalks crosswalks;
    private final HashKeys keys;
    private final DatasetLookUps datasets;
    private final Json json;

    ServiceSurroundings(Crosswalks crosswalks, HashKeys keys, DatasetLookUps datasets, Json json) {
        this.crosswalks = crosswalks;
        this.keys = keys;
        this.datasets = datasets;
        this.json = json;
    }

    @Override
    public Stores stores() {
        return this;
    }

    @Override
    public Optional<CrosswalkTable> crosswalk(long id) {
        return crosswalks.live(id);
    }

    @Override
    public Optional<byte[]> key(String name) {
        return keys.find(name);
    }

    @Override
    public Optional<Columns> columns(long dataset) {
        return datasets.columns(dataset);
    }

    @Override
    public Optional<Long> source(long dataset) {
        return datasets.source(dataset);
    }

    /** The same, with one crosswalk as it would be. */
    Surroundings with(CrosswalkTable unsaved) {
        return new WithCrosswalk(this, unsaved);
    }

    private record WithCrosswalk(ServiceSurroundings service, CrosswalkTable unsaved) implements Surroundings, Stores {
        @Override
        public Stores stores() {
            return this;
        }

        @Override
        public Optional<CrosswalkTable> crosswalk(long id) {
            return id == unsaved.id() ? Optional.of(unsaved) : service.crosswalk(id);
        }

        @Override
        public Optional<byte[]> key(String name) {
            return service.key(name);
        }

        @Override
        public Optional<Columns> columns(long dataset) {
            return service.columns(dataset);
        }

        @Override
        public Optional<Long> source(long dataset) {
            return service.source(dataset);
        }
    }

    /** What tells the surroundings of a route from what they were: the versions its rules reach for. */
    List<String> versions(RouteSpec spec) {
        List<String> versions = new ArrayList<>();
        for (FieldRule rule : spec.rules()) {
            rule.shapers().forEach(shaper -> {
                if (shaper instanceof Crosswalked walk) {
                    versions.add("crosswalk " + walk.crosswalk() + " "
                            + crosswalk(walk.crosswalk())
                                    .map(CrosswalkTable::version)
                                    .orElse(0));
                }
            });
            if (rule.receives() instanceof Receives.FromDataset found) {
                found.where()
                        .datasets()
                        .forEach(id -> versions.add("dataset " + id + " "
                                + datasets.inService(id).map(json::write).orElse("")));
            }
        }
        return versions;
    }
}

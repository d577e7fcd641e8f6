package remitto.server.stocktake;

import jakarta.annotation.PreDestroy;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.RemoteRecord;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.Listing;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.Fit;
import remitto.core.destination.ObjectDescription;
import remitto.core.shaper.Shaped;
import remitto.core.value.Value;
import remitto.server.destination.Connections;
import remitto.server.platform.Problem;
import remitto.server.route.Routes;

/** Counts: reads every record there, a page at a time, and compares each with what is known of it. */
@Component
class StocktakeCount {
    private static final Logger LOG = LoggerFactory.getLogger(StocktakeCount.class);

    private final Stocktakes stocktakes;
    private final Findings findings;
    private final Connections connections;
    private final Routes routes;
    private final ExecutorService pool = Executors.newFixedThreadPool(1, task -> new Thread(task, "stocktake"));

    StocktakeCount(Stocktakes stocktakes, Findings findings, Connections connections, Routes routes) {
        this.stocktakes = stocktakes;
        this.findings = findings;
        this.connections = connections;
        this.routes = routes;
    }

    @PreDestroy
    void end() {
        pool.shutdownNow();
    }

    /**
     * Starts counting and returns at once.
     *
     * @param changesOnly read what changed since the last stocktake, rather than everything
     */
    long start(long destinationId, String object, String who, boolean changesOnly) {
        ObjectDescription described =
                connections.describe(destinationId, object).description();
        Optional<Stocktakes.Base> base = changesOnly ? Optional.of(base(destinationId, object)) : Optional.empty();
        long id = stocktakes.start(destinationId, object, who, base);
        pool.execute(() -> count(id, destinationId, described, base));
        return id;
    }

    private Stocktakes.Base base(long destinationId, String object) {
        if (!tellsChanges(destinationId)) {
            throw Problem.invalid("This destination does not tell what changed since a moment. Run a full stocktake.");
        }
        return stocktakes
                .base(destinationId, object)
                .orElseThrow(() -> Problem.conflict("No stocktake of " + object
                        + " has finished yet, so there is nothing that changes could follow. Run a full one first."));
    }

    /** True when a destination lists what changed since a moment. */
    boolean tellsChanges(long destinationId) {
        return connections
                .open(destinationId)
                .destination()
                .listing()
                .filter(Listing::tellsChanges)
                .isPresent();
    }

    private void count(long id, long destinationId, ObjectDescription object, Optional<Stocktakes.Base> base) {
        try {
            new Counting(id, destinationId, object).run(base);
        } catch (DestinationProblem e) {
            stocktakes.failed(id, String.valueOf(e.getMessage()));
        } catch (RuntimeException e) {
            LOG.error("Stocktake {} failed", id, e);
            stocktakes.failed(id, "Something unexpected failed; the server's log has the details");
        }
    }

    private final class Counting {
        private final long id;
        private final long destinationId;
        private final ObjectDescription object;
        private final Connections.Connection connection;
        private final Set<String> tellApart = new HashSet<>();
        private final Map<String, Long> fill = new HashMap<>();
        private final WriterCount writers = new WriterCount();
        private final Set<String> goneThere = new HashSet<>();
        private long there;
        private int found;

        Counting(long id, long destinationId, ObjectDescription object) {
            this.id = id;
            this.destinationId = destinationId;
            this.object = object;
            this.connection = connections.open(destinationId);
            object.fields().forEach(field -> fill.put(field.name(), 0L));
            tellApart();
        }

        /** Fields that should not hold the same value twice, though the destination would let them. */
        private void tellApart() {
            object.fields().stream()
                    .filter(field -> !field.unique())
                    .filter(field -> field.kind() == FieldKind.EMAIL || field.kind() == FieldKind.PHONE)
                    .map(Field::name)
                    .forEach(tellApart::add);
            routes.all().stream()
                    .filter(route -> route.destinationId() == destinationId
                            && route.object().equals(object.name()))
                    .flatMap(route -> route.spec().match().stream())
                    .filter(name ->
                            object.field(name).filter(field -> !field.unique()).isPresent())
                    .forEach(tellApart::add);
        }

        void run(Optional<Stocktakes.Base> base) {
            Optional<String> cursor = Optional.empty();
            do {
                Listing.Page page = connection.listing().list(object, base.map(Stocktakes.Base::since), cursor);
                take(page.records());
                if (base.isPresent()) {
                    deleted(page.deleted());
                }
                stocktakes.beat(id, there);
                cursor = page.next();
            } while (cursor.isPresent());
            if (base.isPresent()) {
                findings.carryOver(id, base.get().id());
                fill.clear();
            } else {
                findings.afterwards(id, destinationId, object.name());
            }
            stocktakes.done(id, there, findings.knownRecords(destinationId, object.name()), fill, writers);
        }

        private void take(List<RemoteRecord> page) {
            Set<String> fresh = new HashSet<>(
                    findings.meet(id, page.stream().map(RemoteRecord::id).toList()));
            List<RemoteRecord> records =
                    page.stream().filter(one -> fresh.remove(one.id())).toList();
            there += records.size();
            records.forEach(this::fillOf);
            records.forEach(writers::count);
            List<Findings.Found> differences = compare(records);
            List<Findings.Found> confirmed = new ArrayList<>(differences.stream()
                    .filter(one -> one.kind() != FindingKind.EDITED)
                    .toList());
            confirmed.addAll(confirm(differences));
            findings.add(id, found, confirmed);
            found += confirmed.size();
        }

        /** Whoever is deleted was there before; one that nobody knows is nobody's loss. */
        private void deleted(List<String> ids) {
            findings.meet(id, ids);
            List<Findings.Found> gone = findings.known(destinationId, object.name(), ids).stream()
                    .filter(one -> one.routeId() != 0 && goneThere.add(one.remoteId()))
                    .map(one -> new Findings.Found(
                            FindingKind.DELETED,
                            one.remoteId(),
                            "",
                            Value.EMPTY,
                            Value.EMPTY,
                            Optional.of(one.routeId()),
                            one.key(),
                            one.label()))
                    .toList();
            findings.add(id, found, gone);
            found += gone.size();
        }

        private void fillOf(RemoteRecord record) {
            record.fields().forEach((field, value) -> {
                if (!value.isEmpty()) {
                    fill.merge(field, 1L, Long::sum);
                }
            });
            Map<String, String> alike = new HashMap<>();
            tellApart.forEach(field -> {
                Value value = record.fields().getOrDefault(field, Value.EMPTY);
                if (!value.isEmpty()) {
                    alike.put(field, value.display());
                }
            });
            findings.alike(id, record.id(), alike);
        }

        private List<Findings.Found> compare(List<RemoteRecord> records) {
            List<String> ids = records.stream().map(RemoteRecord::id).toList();
            // Asked first: what is taken in meanwhile is known then.
            Set<String> justWritten = findings.justWritten(destinationId, object.name(), ids);
            Map<String, Findings.Known> known = new HashMap<>();
            findings.known(destinationId, object.name(), ids).forEach(one -> known.put(one.remoteId(), one));
            List<Findings.Found> differences = new ArrayList<>();
            for (RemoteRecord record : records) {
                Findings.Known one = known.get(record.id());
                if (justWritten.contains(record.id())) {
                    continue;
                }
                if (one == null || one.routeId() == 0) {
                    differences.add(new Findings.Found(
                            FindingKind.STRAY,
                            record.id(),
                            "",
                            Value.EMPTY,
                            Value.EMPTY,
                            Optional.empty(),
                            "",
                            label(record)));
                } else {
                    edited(record, one, differences);
                }
            }
            return differences;
        }

        private void edited(RemoteRecord record, Findings.Known known, List<Findings.Found> differences) {
            known.fields().forEach((field, written) -> {
                Value live = record.fields().getOrDefault(field, Value.EMPTY);
                boolean same = object.field(field)
                        .map(described -> sameAs(described, live, written.value()))
                        .orElse(true);
                if (!same) {
                    differences.add(new Findings.Found(
                            FindingKind.EDITED,
                            record.id(),
                            field,
                            written.value(),
                            live,
                            Optional.of(written.routeId()),
                            known.key(),
                            known.label()));
                }
            });
        }

        /** A run may have written between the page and the look at what is known: differences are looked at once more. */
        private List<Findings.Found> confirm(List<Findings.Found> differences) {
            List<Value> ids = differences.stream()
                    .filter(one -> one.kind() == FindingKind.EDITED)
                    .map(one -> (Value) new Value.Text(one.remoteId()))
                    .distinct()
                    .toList();
            return ids.isEmpty() ? List.of() : compare(connection.finding().find(object, Destination.ID, ids));
        }

        private String label(RemoteRecord record) {
            return object.fields().stream()
                    .filter(field -> field.name().endsWith("name") || field.unique())
                    .map(field -> record.fields()
                            .getOrDefault(field.name(), Value.EMPTY)
                            .display())
                    .filter(text -> !text.isBlank())
                    .limit(2)
                    .reduce((one, other) -> one + " " + other)
                    .orElse("");
        }
    }

    private static boolean sameAs(Field field, Value live, Value known) {
        Value asHeld = Fit.into(field, known) instanceof Shaped.Usable usable ? usable.value() : known;
        return asHeld.equals(live) || asHeld.isEmpty() && live.isEmpty();
    }
}

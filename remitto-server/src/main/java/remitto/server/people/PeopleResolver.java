package remitto.server.people;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.springframework.stereotype.Component;
import remitto.core.identity.Linker;
import remitto.core.identity.Links;
import remitto.core.identity.MatchRules;
import remitto.core.identity.RecordRef;
import remitto.core.identity.RecordTable;
import remitto.core.identity.Resolution;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.PersonIds;
import remitto.core.identity.group.Pins;
import remitto.core.identity.tidy.Nicknames;

/** Reads, joins, and writes down who is who. */
@Component
class PeopleResolver {
    private final PersonRecords records;
    private final Corrections corrections;
    private final PeopleStore store;

    PeopleResolver(PersonRecords records, Corrections corrections, PeopleStore store) {
        this.records = records;
        this.corrections = corrections;
        this.store = store;
    }

    /** Everything is replaced in one transaction at the end, or nothing is. */
    void resolve(long runId) {
        PersonRecords.Read read = records.read();
        MatchRules rules = MatchRules.usual(read.table().attributes());
        Nicknames nicknames = Nicknames.shipped();
        Resolution resolution = Resolution.of(read.table(), rules, nicknames, pins(read.table()), Set.of());
        RecordTable table = resolution.table();
        Map<RecordRef, Long> before = store.personsByRecord();
        long[] had = new long[table.size()];
        for (int record = 0; record < had.length; record++) {
            had[record] = before.getOrDefault(table.ref(record), 0L);
        }
        PersonIds.Assigned assigned = PersonIds.assign(resolution.groups().group(), had, store.nextPerson());
        Map<Long, List<Integer>> persons = new TreeMap<>();
        for (int record = 0; record < had.length; record++) {
            persons.computeIfAbsent(assigned.ids()[record], id -> new ArrayList<>())
                    .add(record);
        }
        Scorer scorer = new Scorer(table, resolution.found().weights(), nicknames);
        store.replace(
                runId,
                new PeopleStore.Fresh(
                        read, resolution, assigned, persons, scorer, new KeptValues(read.table(), read.said())),
                summary(read, resolution, rules, assigned, persons));
    }

    private Pins pins(RecordTable table) {
        Map<RecordRef, Integer> numbers = new HashMap<>();
        List<Corrections.Correction> all = corrections.all();
        if (!all.isEmpty()) {
            for (int record = 0; record < table.size(); record++) {
                numbers.put(table.ref(record), record);
            }
        }
        Pins pins = new Pins();
        all.forEach(one -> {
            Integer first = numbers.get(ref(one.one()));
            Integer second = numbers.get(ref(one.other()));
            if (first != null && second != null) {
                if (one.together()) {
                    pins.together(first, second);
                } else {
                    pins.apart(first, second);
                }
            }
        });
        return pins;
    }

    private static RecordRef ref(Corrections.PersonRecordRef one) {
        return new RecordRef(Long.toString(one.datasetId()), one.key());
    }

    private static PeopleSummary summary(
            PersonRecords.Read read,
            Resolution resolution,
            MatchRules rules,
            PersonIds.Assigned assigned,
            Map<Long, List<Integer>> persons) {
        RecordTable table = resolution.table();
        Map<String, Long> recordsBySource = new HashMap<>();
        Map<String, Long> personsBySource = new HashMap<>();
        Map<List<String>, Long> shared = new LinkedHashMap<>();
        Map<Integer, Long> sizes = new TreeMap<>();
        List<String> order = read.sources().stream()
                .map(one -> Long.toString(one.datasetId()))
                .toList();
        for (List<Integer> one : persons.values()) {
            sizes.merge(one.size(), 1L, Long::sum);
            Set<String> in = new HashSet<>();
            one.forEach(record -> {
                recordsBySource.merge(table.ref(record).source(), 1L, Long::sum);
                in.add(table.ref(record).source());
            });
            for (int i = 0; i < order.size(); i++) {
                if (in.contains(order.get(i))) {
                    personsBySource.merge(order.get(i), 1L, Long::sum);
                    for (int j = i + 1; j < order.size(); j++) {
                        if (in.contains(order.get(j))) {
                            shared.merge(List.of(order.get(i), order.get(j)), 1L, Long::sum);
                        }
                    }
                }
            }
        }
        Map<String, String> names = new HashMap<>();
        read.sources().forEach(one -> names.put(Long.toString(one.datasetId()), one.dataset()));
        Links links = resolution.found().links();
        long asks = 0;
        for (int link = 0; link < links.size(); link++) {
            boolean decided = links.rule(link) >= 0
                    || links.weight(link) >= rules.thresholds().join()
                    || resolution.groups().group()[links.one(link)]
                            == resolution.groups().group()[links.other(link)];
            asks += decided ? 0 : 1;
        }
        return new PeopleSummary(
                table.size(),
                read.withoutKey(),
                persons.size(),
                read.sources().stream()
                        .map(one -> {
                            String id = Long.toString(one.datasetId());
                            return new PeopleSummary.SourceSum(
                                    one.datasetId(),
                                    one.dataset(),
                                    recordsBySource.getOrDefault(id, 0L),
                                    personsBySource.getOrDefault(id, 0L));
                        })
                        .toList(),
                shared.entrySet().stream()
                        .map(entry -> {
                            String one = entry.getKey().get(0);
                            String other = entry.getKey().get(1);
                            long smaller = Math.min(personsBySource.get(one), personsBySource.get(other));
                            return new PeopleSummary.SharedBy(
                                    names.get(one),
                                    names.get(other),
                                    entry.getValue(),
                                    entry.getValue() / (double) smaller);
                        })
                        .toList(),
                sizes.entrySet().stream()
                        .map(entry -> new PeopleSummary.SizeSum(entry.getKey(), entry.getValue()))
                        .toList(),
                evidence(resolution.found()),
                resolution.common().list().stream()
                        .limit(100)
                        .map(one -> new PeopleSummary.LeftOutValue(
                                one.attribute(), one.value(), one.records(), one.reason()))
                        .toList(),
                resolution.found().costs().stream()
                        .map(one -> new PeopleSummary.KeySum(one.key().words(), one.pairs(), one.leftOut()))
                        .toList(),
                resolution.found().compared(),
                asks,
                resolution.groups().refused().size(),
                assigned.fresh().size(),
                assigned.retired().size(),
                assigned.split().size());
    }

    private static List<PeopleSummary.EvidenceRow> evidence(Linker.Found found) {
        Weights weights = found.weights();
        List<PeopleSummary.EvidenceRow> rows = new ArrayList<>();
        rows.add(new PeopleSummary.EvidenceRow(
                "start", weights.strangers().start(), weights.mates().start(), 0, 0));
        for (int i = 0; i < weights.levels().size(); i++) {
            for (int level = 0; level < weights.levels().get(i).count(); level++) {
                rows.add(new PeopleSummary.EvidenceRow(
                        weights.levels().get(i).words(level),
                        weights.strangers().bits(i, level),
                        weights.mates().bits(i, level),
                        weights.strangers().m()[i][level],
                        weights.strangers().u()[i][level]));
            }
        }
        return rows;
    }
}

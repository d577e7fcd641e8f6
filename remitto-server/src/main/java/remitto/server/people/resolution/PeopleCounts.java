package remitto.server.people.resolution;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.identity.Linker;
import remitto.core.identity.Resolution;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.record.Links;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.Expected;
import remitto.core.identity.rule.MatchRules;
import remitto.server.people.EntityType;
import remitto.server.people.rule.PeopleRuleVersions;
import remitto.server.people.source.PeopleSources;

/** Counts what a run found. */
@Component
public class PeopleCounts {
    private static final int COMMON = 100;

    /** Precisions that people ask for; common practice, no source. */
    private static final List<Double> ASKED = List.of(0.99, 0.995, 0.999);

    /** Pairs that wait for somebody: not followed, between two persons, and undecided. */
    public static final String OPEN = """
            l.about = :about and not l.used and l.person_id <> l.other_person_id and not exists (
              select 1 from identity_pin p
              where (p.one_dataset, p.one_key, p.other_dataset, p.other_key)
                  = (l.one_dataset, l.one_key, l.other_dataset, l.other_key)
                or (p.one_dataset, p.one_key, p.other_dataset, p.other_key)
                  = (l.other_dataset, l.other_key, l.one_dataset, l.one_key))
            """;

    private final JdbcClient jdbc;

    PeopleCounts(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private record Open(long asks, long refused) {}

    private Open open(EntityType entityType) {
        return jdbc.sql("select count(*) filter (where l.reason = '') as asks,"
                        + " count(*) filter (where l.reason <> '') as refused from identity_link l where " + OPEN)
                .param("about", entityType.name())
                .query((row, number) -> new Open(row.getLong("asks"), row.getLong("refused")))
                .single();
    }

    /** Once it is written down. */
    PeopleSummary of(FreshPeople fresh, PeopleRuleVersions.Numbered rules, MatchRules match) {
        Resolution resolution = fresh.resolution();
        Open open = open(fresh.entityType());
        BySource sources = new BySource(fresh);
        Map<Integer, Long> sizes = new TreeMap<>();
        fresh.persons().values().forEach(one -> sizes.merge(one.size(), 1L, Long::sum));
        return new PeopleSummary(
                fresh.table().size(),
                fresh.read().withoutKey(),
                fresh.read().changed().size(),
                fresh.gone().size(),
                fresh.judged().cardinality(),
                fresh.persons().size(),
                sources.counts(),
                sources.shared(),
                sizes.entrySet().stream()
                        .map(entry -> new PeopleSummary.GroupSizeCount(entry.getKey(), entry.getValue()))
                        .toList(),
                rules.number(),
                rules(resolution, match),
                evidence(resolution.found(), match),
                resolution.common().list().stream()
                        .limit(COMMON)
                        .map(one -> new PeopleSummary.LeftOutValue(
                                one.attribute(), one.value(), one.records(), one.reason()))
                        .toList(),
                resolution.found().costs().stream()
                        .map(one -> new PeopleSummary.BlockingKeyCount(one.key().words(), one.pairs(), one.leftOut()))
                        .toList(),
                resolution.found().compared(),
                open.asks(),
                open.refused(),
                fresh.assigned().fresh().size(),
                fresh.assigned().retired().size(),
                fresh.assigned().split().size(),
                Optional.of(cost(resolution)));
    }

    private static PeopleSummary.ExpectedCost cost(Resolution resolution) {
        Linker.Found found = resolution.found();
        Expected now = Expected.from(found.links(), resolution.thresholds().join());
        List<PeopleSummary.ForPrecision> asked = ASKED.stream()
                .flatMap(precision -> Expected.forPrecision(found.links(), precision).stream()
                        .map(one -> new PeopleSummary.ForPrecision(precision, one.join(), one.joined())))
                .toList();
        return new PeopleSummary.ExpectedCost(
                now.precision(),
                now.joined(),
                asked,
                Optional.of(now.join()),
                Optional.of(resolution.thresholds().ask()),
                Optional.of(found.links().size() - now.joined()));
    }

    /** Pairs that hold persons together, by what joined them. */
    public static List<PeopleSummary.MatchRuleCount> rules(Resolution resolution, MatchRules match) {
        Links links = resolution.found().links();
        long[] pairs = new long[match.join().size() + 1];
        for (int link = 0; link < links.size(); link++) {
            if (resolution.groups().used()[link]) {
                pairs[links.rule(link) + 1]++;
            }
        }
        List<PeopleSummary.MatchRuleCount> counts = new ArrayList<>();
        for (int i = 0; i < match.join().size(); i++) {
            counts.add(new PeopleSummary.MatchRuleCount(match.join().get(i).words(), pairs[i + 1]));
        }
        counts.add(new PeopleSummary.MatchRuleCount("weighed evidence", pairs[0]));
        return counts;
    }

    private static List<PeopleSummary.EvidenceRow> evidence(Linker.Found found, MatchRules match) {
        Weights weights = found.weights();
        List<PeopleSummary.EvidenceRow> rows = new ArrayList<>();
        rows.add(new PeopleSummary.EvidenceRow(
                "start", "", 0, weights.strangers().start(), weights.mates().start(), 0, 0, false, Optional.empty()));
        for (int i = 0; i < weights.levels().size(); i++) {
            String attribute = weights.levels().get(i).attribute();
            for (int level = 0; level < weights.levels().get(i).count(); level++) {
                int here = level;
                rows.add(new PeopleSummary.EvidenceRow(
                        weights.levels().get(i).words(level),
                        attribute,
                        level,
                        weights.strangers().bits(i, level),
                        weights.mates().bits(i, level),
                        found.estimated().strangers().m()[i][level],
                        found.estimated().strangers().u()[i][level],
                        match.fixed().stream()
                                .anyMatch(one -> one.attribute().equals(attribute) && one.level() == here),
                        grounds(weights, i, level)));
            }
        }
        return rows;
    }

    private static Optional<PeopleSummary.WeightGrounds> grounds(Weights weights, int attribute, int level) {
        List<String> inLightOf = weights.inLightOf(attribute, level).stream()
                .map(one ->
                        String.format(Locale.ROOT, "%+.1f where ", one.bits()).replace('-', '\u2212')
                                + String.join(" and ", one.others()).replace('_', ' ')
                                + (one.agree() ? (one.others().size() > 1 ? " agree" : " agrees") : " does not"))
                .toList();
        return weights.basis()
                .map(basis -> new PeopleSummary.WeightGrounds(
                        inLightOf, Math.round(basis.seen()[attribute]), basis.hasFew(attribute)));
    }

    /** Counts by source, and by two of them. */
    private static final class BySource {
        private final List<PeopleSources.PeopleSource> sources;
        private final Map<String, Long> records = new HashMap<>();
        private final Map<String, Long> persons = new HashMap<>();
        private final Map<List<String>, Long> both = new LinkedHashMap<>();

        BySource(FreshPeople fresh) {
            this.sources = fresh.read().sources();
            RecordTable table = fresh.table();
            List<String> order =
                    sources.stream().map(one -> Long.toString(one.datasetId())).toList();
            for (List<Integer> one : fresh.persons().values()) {
                Set<String> in = new HashSet<>();
                one.forEach(record -> {
                    records.merge(table.ref(record).source(), 1L, Long::sum);
                    in.add(table.ref(record).source());
                });
                count(order, in);
            }
        }

        private void count(List<String> order, Set<String> in) {
            for (int i = 0; i < order.size(); i++) {
                if (in.contains(order.get(i))) {
                    persons.merge(order.get(i), 1L, Long::sum);
                    for (int j = i + 1; j < order.size(); j++) {
                        if (in.contains(order.get(j))) {
                            both.merge(List.of(order.get(i), order.get(j)), 1L, Long::sum);
                        }
                    }
                }
            }
        }

        List<PeopleSummary.SourceCount> counts() {
            return sources.stream()
                    .map(one -> {
                        String id = Long.toString(one.datasetId());
                        return new PeopleSummary.SourceCount(
                                one.datasetId(),
                                one.dataset(),
                                records.getOrDefault(id, 0L),
                                persons.getOrDefault(id, 0L));
                    })
                    .toList();
        }

        List<PeopleSummary.SharedBy> shared() {
            Map<String, String> names = new HashMap<>();
            sources.forEach(one -> names.put(Long.toString(one.datasetId()), one.dataset()));
            return both.entrySet().stream()
                    .map(entry -> {
                        String one = entry.getKey().get(0);
                        String other = entry.getKey().get(1);
                        long smaller = Math.min(persons.get(one), persons.get(other));
                        return new PeopleSummary.SharedBy(
                                names.get(one),
                                names.get(other),
                                entry.getValue(),
                                entry.getValue() / (double) smaller);
                    })
                    .toList();
        }
    }
}

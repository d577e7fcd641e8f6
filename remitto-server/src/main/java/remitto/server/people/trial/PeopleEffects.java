package remitto.server.people.trial;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import org.apache.commons.codec.language.Soundex;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.identity.Resolution;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.quality.Difference;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.CommonValues;
import remitto.core.identity.record.Links;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.ResolutionRules;
import remitto.server.people.EntityType;
import remitto.server.people.person.People;
import remitto.server.people.resolution.Corrections;
import remitto.server.people.resolution.PeopleCounts;
import remitto.server.people.resolution.PeopleRuns;
import remitto.server.people.resolution.PeopleStore;
import remitto.server.people.resolution.PeopleSummary;
import remitto.server.people.rule.PeopleRules;
import remitto.server.people.rule.PeopleSettings;
import remitto.server.people.source.PeopleSources;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;

/** What other rules would do, tried on the records as the last run read them; nothing is changed by it. */
@Component
class PeopleEffects {
    private static final int EXAMPLES = 20;
    /** Records that are looked at while somebody edits; more are a sample. */
    private static final int SAMPLE = 40_000;

    private final PeopleRuns runs;
    private final PeopleStore store;
    private final PeopleSources sources;
    private final PeopleSettings settings;
    private final Corrections corrections;
    private final JdbcClient jdbc;
    private final Json json;
    private final Cache<Long, Sample> samples = Caffeine.newBuilder()
            .expireAfterAccess(Duration.ofMinutes(10))
            .maximumSize(2)
            .build();

    PeopleEffects(
            PeopleRuns runs,
            PeopleStore store,
            PeopleSources sources,
            PeopleSettings settings,
            Corrections corrections,
            JdbcClient jdbc,
            Json json) {
        this.runs = runs;
        this.store = store;
        this.sources = sources;
        this.settings = settings;
        this.corrections = corrections;
        this.jdbc = jdbc;
        this.json = json;
    }

    /** @param oneIn the sample has one in so many of all records */
    private record Sample(RecordTable table, CommonValues common, int oneIn) {}

    /**
     * Two records that one of the rule sets joins.
     *
     * @param byRule the rule that joins them; blank for weighed evidence
     */
    record ExamplePair(
            People.PersonRecord one, People.PersonRecord other, String byRule, People.PairEvidence evidence) {}

    /**
     * What rules come to beside others.
     *
     * @param records looked at, {@code oneIn} so many of all; 1 when it is all of them
     * @param persons by the first rules and {@code otherPersons} by the second
     * @param onlyFirst pairs that are one person by the first only, {@code onlySecond} by the second only
     * @param rules pairs that hold persons together by the second, by what joined them
     */
    record RulesEffect(
            int records,
            int oneIn,
            int persons,
            int otherPersons,
            long both,
            long onlyFirst,
            long onlySecond,
            List<ExamplePair> firstExamples,
            List<ExamplePair> secondExamples,
            List<PeopleSummary.MatchRuleCount> rules) {}

    /** @throws Problem if no run has read any records yet, or since columns were tied otherwise */
    RulesEffect compare(EntityType entityType, PeopleRules first, PeopleRules second) {
        List<Attribute> attributes = sources.attributes(entityType);
        first.check(attributes);
        second.check(attributes);
        PeopleRuns.PeopleRun good = runs.latestGood(entityType)
                .orElseThrow(() -> Problem.conflict("Run matching once; then other rules can be tried."));
        Sample sample = samples.get(good.id(), id -> sample(entityType, attributes));
        Resolution one = resolve(entityType, sample, first, attributes);
        Resolution other = resolve(entityType, sample, second, attributes);
        Difference difference =
                Difference.of(one.groups().group(), other.groups().group(), EXAMPLES);
        return new RulesEffect(
                sample.table().size(),
                sample.oneIn(),
                one.groups().persons(),
                other.groups().persons(),
                difference.both(),
                difference.onlyFirst(),
                difference.onlySecond(),
                examples(difference.firstExamples(), one, first.resolutionRules(attributes)),
                examples(difference.secondExamples(), other, second.resolutionRules(attributes)),
                PeopleCounts.rules(other, second.resolutionRules(attributes).rules()));
    }

    private Resolution resolve(EntityType entityType, Sample sample, PeopleRules rules, List<Attribute> attributes) {
        ResolutionRules set = rules.resolutionRules(attributes);
        RecordTable table = sample.table()
                .without(new CommonValues(sample.common().list().stream()
                        .filter(one -> !rules.kept().contains(new PeopleRules.KeptCommon(one.attribute(), one.value())))
                        .toList()));
        MatchOverrides overrides = corrections.overrides(table);
        PeopleSettings.Setting setting = settings.of(entityType);
        boolean fits = setting.weightsFor().equals(rules.weighed(attributes));
        return setting.weights()
                .filter(weights -> fits)
                .map(weights -> Resolution.of(table, set, overrides, weights))
                .orElseGet(() -> Resolution.of(table, set, overrides));
    }

    /** The records as they were read, or a part of them in which those that may be one person stay together. */
    private Sample sample(EntityType entityType, List<Attribute> attributes) {
        RecordTable all = table(entityType, attributes);
        CommonValues common =
                CommonValues.find(all, PeopleRules.usual(attributes).limits().share(), Set.of());
        int oneIn = (all.size() + SAMPLE - 1) / SAMPLE;
        if (oneIn <= 1) {
            return new Sample(all, common, 1);
        }
        int by = IntStream.range(0, attributes.size())
                .filter(at -> attributes.get(at).kind() == Attribute.Kind.FAMILY_NAME
                        || attributes.get(at).kind() == Attribute.Kind.COMPANY)
                .findFirst()
                .orElse(0);
        RecordTable.Builder builder = new RecordTable.Builder(attributes);
        for (int record = 0; record < all.size(); record++) {
            if (Math.floorMod(sound(all.value(by, record)).hashCode() * 0x9E3779B9 >>> 7, oneIn) == 0) {
                String[] values = new String[attributes.size()];
                for (int a = 0; a < values.length; a++) {
                    values[a] = all.value(a, record);
                }
                builder.add(all.ref(record), values);
            }
        }
        return new Sample(builder.build(), common, oneIn);
    }

    private static String sound(String value) {
        String letters = value.replaceAll("[^a-z]", "");
        return letters.isEmpty() ? value : Soundex.US_ENGLISH.encode(letters);
    }

    /** All records as the last run normalised them. */
    RecordTable table(EntityType entityType, List<Attribute> attributes) {
        RecordTable.Builder builder = new RecordTable.Builder(attributes);
        store.records(entityType).forEach((ref, one) -> {
            if (one.normalised().size() != attributes.size()) {
                throw Problem.conflict("The column mapping changed since matching last ran. Run it again.");
            }
            builder.add(ref, one.normalised().toArray(String[]::new));
        });
        return builder.build();
    }

    private List<ExamplePair> examples(List<int[]> pairs, Resolution resolution, ResolutionRules set) {
        Weights weights = resolution.found().weights();
        Scorer scorer = new Scorer(resolution.table(), weights, set.nicknames());
        Links links = resolution.found().links();
        Map<Long, Integer> rules = new HashMap<>();
        for (int link = 0; link < links.size(); link++) {
            if (links.rule(link) >= 0) {
                rules.put(pair(links.one(link), links.other(link)), links.rule(link));
            }
        }
        List<ExamplePair> examples = new ArrayList<>();
        for (int[] pair : pairs) {
            RecordRef one = resolution.table().ref(pair[0]);
            RecordRef other = resolution.table().ref(pair[1]);
            int rule = rules.getOrDefault(pair(pair[0], pair[1]), -1);
            examples.add(new ExamplePair(
                    record(one),
                    record(other),
                    rule < 0 ? "" : set.rules().join().get(rule).words(),
                    new People.PairEvidence(
                            ref(one),
                            ref(other),
                            scorer.weigh(pair[0], pair[1]),
                            true,
                            "",
                            scorer.ledger(pair[0], pair[1]))));
        }
        return examples;
    }

    private static long pair(int one, int other) {
        return ((long) Math.min(one, other) << 32) | Math.max(one, other);
    }

    private static Corrections.PersonRecordRef ref(RecordRef ref) {
        return new Corrections.PersonRecordRef(Long.parseLong(ref.source()), ref.key());
    }

    @SuppressWarnings("unchecked")
    private People.PersonRecord record(RecordRef ref) {
        return jdbc.sql("""
                        select d.name, r.cells from identity_record r join dataset d on d.id = r.dataset_id
                        where r.dataset_id = ? and r.key = ?
                        """)
                .params(Long.parseLong(ref.source()), ref.key())
                .query((row, number) -> new People.PersonRecord(
                        Long.parseLong(ref.source()),
                        row.getString("name"),
                        ref.key(),
                        json.read(row.getString("cells"), Map.class)))
                .single();
    }
}

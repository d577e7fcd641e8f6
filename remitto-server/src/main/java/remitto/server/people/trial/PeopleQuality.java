package remitto.server.people.trial;

import java.io.IOException;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.identity.quality.Quality;
import remitto.core.identity.quality.ThresholdCurve;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.CommonValues;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.MatchRules;
import remitto.core.identity.rule.ResolutionRules;
import remitto.server.people.EntityType;
import remitto.server.people.resolution.Corrections;
import remitto.server.people.resolution.PeopleStore;
import remitto.server.people.rule.PeopleRuleVersions;
import remitto.server.people.rule.PeopleRules;
import remitto.server.people.rule.PeopleSettings;
import remitto.server.people.source.PeopleSources;
import remitto.server.platform.Problem;

/** How good the people are beside labels that somebody knows to be true. */
@Component
public class PeopleQuality {
    private static final int MISTAKES = 40;
    private static final List<String> HEADER = List.of("dataset", "key", "person");

    private static final int LOWEST = -6;
    private static final int HIGHEST = 24;

    private final JdbcClient jdbc;
    private final PeopleStore store;
    private final PeopleEffects effects;
    private final PeopleSources sources;
    private final PeopleRuleVersions ruleVersions;
    private final PeopleSettings settings;

    PeopleQuality(
            JdbcClient jdbc,
            PeopleStore store,
            PeopleEffects effects,
            PeopleSources sources,
            PeopleRuleVersions ruleVersions,
            PeopleSettings settings) {
        this.jdbc = jdbc;
        this.store = store;
        this.effects = effects;
        this.sources = sources;
        this.ruleVersions = ruleVersions;
        this.settings = settings;
    }

    /** Two records that were judged wrong, with the persons they are now. */
    record QualityMistake(
            Corrections.PersonRecordRef one, long onePerson, Corrections.PersonRecordRef other, long otherPerson) {}

    /**
     * Shares from 0 to 1, of pairs and of records.
     *
     * @param labelled records with a label that are known here
     * @param unknown labels of records that are not
     * @param wrong pairs joined that are two people
     * @param missed pairs of one person not joined; the first of each
     * @param join weight from which records are joined by the rules in service
     * @param curve how good they would be from another weight on, judged on the labelled records alone
     */
    public record QualityView(
            int labelled,
            int unknown,
            double precision,
            double recall,
            double f1,
            double bCubedPrecision,
            double bCubedRecall,
            double bCubedF1,
            List<QualityMistake> wrong,
            List<QualityMistake> missed,
            double join,
            List<ThresholdCurve.ThresholdPoint> curve) {}

    private record Label(RecordRef ref, String person) {}

    /**
     * @param text CSV (RFC 4180) with the columns dataset (its name), key and person
     * @throws Problem naming the line, if the text is not that
     */
    public QualityView beside(EntityType entityType, String text) {
        Map<RecordRef, Long> persons = store.personsByRecord(entityType);
        Map<String, Integer> numbers = new HashMap<>();
        List<Label> known = new ArrayList<>();
        int unknown = 0;
        for (Label label : labels(text)) {
            if (persons.containsKey(label.ref())) {
                known.add(label);
            } else {
                unknown++;
            }
        }
        int[] group = new int[known.size()];
        int[] truth = new int[known.size()];
        for (int i = 0; i < group.length; i++) {
            group[i] = Math.toIntExact(persons.get(known.get(i).ref()));
            truth[i] = numbers.computeIfAbsent(known.get(i).person(), name -> numbers.size());
        }
        Quality quality = Quality.of(group, truth);
        return new QualityView(
                group.length,
                unknown,
                quality.precision(),
                quality.recall(),
                quality.f1(),
                quality.bCubedPrecision(),
                quality.bCubedRecall(),
                quality.bCubedF1(),
                mistakes(known, group, group, truth),
                mistakes(known, group, truth, group),
                joinsFrom(entityType),
                curve(entityType, known, truth));
    }

    private double joinsFrom(EntityType entityType) {
        MatchRules.Thresholds stated =
                ruleVersions.inService(entityType).rules().thresholds();
        return settings.of(entityType).weights().map(stated::by).orElse(stated).join();
    }

    /** Empty while nothing was estimated for the rules in service. */
    private List<ThresholdCurve.ThresholdPoint> curve(EntityType entityType, List<Label> known, int[] truth) {
        List<Attribute> attributes = sources.attributes(entityType);
        PeopleRules rules = ruleVersions.inService(entityType).rules();
        PeopleSettings.Setting setting = settings.of(entityType);
        if (setting.weights().isEmpty() || !setting.weightsFor().equals(rules.weighed(attributes))) {
            return List.of();
        }
        Map<RecordRef, Integer> labels = new HashMap<>();
        for (int i = 0; i < truth.length; i++) {
            labels.put(known.get(i).ref(), truth[i]);
        }
        ResolutionRules set = rules.resolutionRules(attributes);
        RecordTable all = effects.table(entityType, attributes);
        RecordTable table =
                all.without(CommonValues.find(all, set.rules().limits().share(), set.kept()));
        RecordTable.Builder builder = new RecordTable.Builder(attributes);
        for (int record = 0; record < table.size(); record++) {
            if (labels.containsKey(table.ref(record))) {
                String[] values = new String[attributes.size()];
                for (int a = 0; a < values.length; a++) {
                    values[a] = table.value(a, record);
                }
                builder.add(table.ref(record), values);
            }
        }
        RecordTable labelled = builder.build();
        int[] numbers = new int[labelled.size()];
        for (int record = 0; record < numbers.length; record++) {
            numbers[record] = labels.get(labelled.ref(record));
        }
        return ThresholdCurve.of(labelled, set, setting.weights().get(), numbers, LOWEST, HIGHEST);
    }

    /** Pairs that are the same by one grouping and not by the other. */
    private static List<QualityMistake> mistakes(List<Label> known, int[] person, int[] same, int[] different) {
        Map<Integer, List<Integer>> members = new HashMap<>();
        List<QualityMistake> mistakes = new ArrayList<>();
        for (int i = 0; i < same.length && mistakes.size() < MISTAKES; i++) {
            List<Integer> before = members.computeIfAbsent(same[i], id -> new ArrayList<>());
            for (int other : before) {
                if (different[other] != different[i] && mistakes.size() < MISTAKES) {
                    mistakes.add(
                            new QualityMistake(ref(known.get(other)), person[other], ref(known.get(i)), person[i]));
                }
            }
            before.add(i);
        }
        return mistakes;
    }

    private static Corrections.PersonRecordRef ref(Label label) {
        return new Corrections.PersonRecordRef(
                Long.parseLong(label.ref().source()), label.ref().key());
    }

    private List<Label> labels(String text) {
        Map<String, Long> datasets = new HashMap<>();
        jdbc.sql("select id, name from dataset").query(row -> {
            datasets.put(row.getString("name"), row.getLong("id"));
        });
        List<Label> labels = new ArrayList<>();
        try (CSVParser csv = CSVFormat.RFC4180
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .setTrim(true)
                .get()
                .parse(new StringReader(text))) {
            if (!csv.getHeaderNames().containsAll(HEADER)) {
                throw Problem.invalid("The first line must name the columns dataset, key and person.");
            }
            for (CSVRecord row : csv) {
                Long dataset = datasets.get(row.get("dataset"));
                if (dataset == null) {
                    throw Problem.invalid("Line " + (row.getRecordNumber() + 1) + ": there is no dataset called "
                            + row.get("dataset") + ".");
                }
                labels.add(new Label(new RecordRef(Long.toString(dataset), row.get("key")), row.get("person")));
            }
        } catch (IOException | IllegalArgumentException e) {
            throw Problem.invalid("This is not CSV with the columns dataset, key and person: " + e.getMessage());
        }
        if (labels.isEmpty()) {
            throw Problem.invalid("There is no label in it.");
        }
        return labels;
    }
}

package remitto.server.people.resolution;

import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.identity.Earlier;
import remitto.core.identity.Resolution;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.ResolutionRules;
import remitto.core.known.Fingerprint;
import remitto.server.people.EntityType;
import remitto.server.people.rule.PeopleRuleVersions;
import remitto.server.people.rule.PeopleRules;
import remitto.server.people.rule.PeopleSettings;
import remitto.server.people.source.PeopleSources;
import remitto.server.people.source.PersonRecords;
import remitto.server.people.source.RunProgress;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Reads, joins, and writes down who is who; what nothing touched since the last run is not judged again. */
@Component
class PeopleResolver {
    private final PeopleSources sources;
    private final PersonRecords records;
    private final PeopleRuleVersions ruleVersions;
    private final PeopleSettings settings;
    private final Corrections corrections;
    private final PeopleStore store;
    private final PeopleWriter writer;
    private final PersonHistory history;
    private final PeopleCounts counts;
    private final JdbcClient jdbc;
    private final TransactionTemplate transactions;
    private final Json json;
    private final Clock clock;

    PeopleResolver(
            PeopleSources sources,
            PersonRecords records,
            PeopleRuleVersions ruleVersions,
            PeopleSettings settings,
            Corrections corrections,
            PeopleStore store,
            PeopleWriter writer,
            PersonHistory history,
            PeopleCounts counts,
            JdbcClient jdbc,
            TransactionTemplate transactions,
            Json json,
            Clock clock) {
        this.sources = sources;
        this.records = records;
        this.ruleVersions = ruleVersions;
        this.settings = settings;
        this.corrections = corrections;
        this.store = store;
        this.writer = writer;
        this.history = history;
        this.counts = counts;
        this.jdbc = jdbc;
        this.transactions = transactions;
        this.json = json;
        this.clock = clock;
    }

    /**
     * What a run is asked to do.
     *
     * @param whole whether everything is judged again, {@code estimate} whether weights are estimated again before
     * @param allowed how much it may do; absent when nobody approved of anything
     */
    record Task(
            long runId,
            EntityType entityType,
            boolean whole,
            boolean estimate,
            Optional<PeopleGuard.Allowed> allowed) {}

    /** Everything is written in one transaction at the end, or nothing is. */
    void resolve(Task task, RunProgress progress) {
        Instant start = clock.instant();
        EntityType entityType = task.entityType();
        List<PeopleSources.PeopleSource> all = sources.all(entityType);
        if (all.isEmpty()) {
            throw Problem.invalid(
                    entityType == EntityType.PERSON
                            ? "No dataset of people yet. Map the columns of one first."
                            : "No dataset of companies yet. Map the columns of one first.");
        }
        List<Attribute> attributes = sources.attributes(entityType);
        PeopleRuleVersions.Numbered rules = ruleVersions.inService(entityType);
        rules.rules().check(attributes);
        ResolutionRules set = rules.rules().resolutionRules(attributes);
        progress.stage("reading known records");
        Map<RecordRef, PeopleStore.Stored> before = store.records(entityType);
        Map<RecordRef, PersonRecords.Before> texts = new HashMap<>();
        before.forEach((ref, one) -> texts.put(ref, new PersonRecords.Before(one.fingerprint(), one.normalised())));
        PersonRecords.Read read = records.read(
                new PersonRecords.Request(all, attributes, rules.rules().withoutTag()), texts, progress);
        Judged judged = judge(task, read, before, rules, set, progress);
        FreshPeople fresh = FreshPeople.of(entityType, read, before, judged.resolution(), store.nextPerson());
        Optional<PeopleGuard.GuardStop> stopped =
                PeopleGuard.check(fresh, settings.of(entityType).guards(), task.allowed());
        if (stopped.isPresent()) {
            stop(task.runId(), stopped.get());
            return;
        }
        progress.stage("saving people");
        KeptValues kept =
                new KeptValues(read.table(), read.said(), rules.rules().keeping(), clock.instant());
        Scorer scorer = new Scorer(fresh.table(), fresh.resolution().found().weights(), set.nicknames());
        Set<Long> affected = fresh.affected();
        if (!judged.keptAsBefore()) {
            affected.addAll(fresh.persons().keySet());
        }
        affected.addAll(store.expired(entityType));
        transactions.executeWithoutResult(status -> {
            writer.write(fresh, kept, scorer, affected);
            writer.retire(task.runId(), entityType, fresh.assigned().retired());
            history.write(task.runId(), fresh);
            if (judged.estimated()) {
                settings.estimated(
                        entityType,
                        fresh.resolution().found().estimated(),
                        rules.rules().weighed(attributes));
            }
            settings.judged(entityType, judged.by());
            close(task.runId(), judged, counts.of(fresh, rules, set.rules()), start);
        });
    }

    /**
     * What was judged.
     *
     * @param by what it was judged by
     * @param whole whether everything was
     * @param estimated whether weights were estimated
     * @param keptAsBefore whether values are kept by what they were kept by before
     */
    private record Judged(Resolution resolution, String by, boolean whole, boolean estimated, boolean keptAsBefore) {}

    private Judged judge(
            Task task,
            PersonRecords.Read read,
            Map<RecordRef, PeopleStore.Stored> before,
            PeopleRuleVersions.Numbered rules,
            ResolutionRules set,
            RunProgress progress) {
        EntityType entityType = task.entityType();
        PeopleSettings.Setting setting = settings.of(entityType);
        List<Attribute> attributes = read.table().attributes();
        boolean estimate = task.estimate()
                || setting.weights().isEmpty()
                || !setting.weightsFor().equals(rules.rules().weighed(attributes));
        progress.stage("comparing records");
        progress.done(0);
        MatchOverrides overrides = corrections.overrides(read.table());
        String keptBy = hash(json.write(rules.rules().survivorship()), sources.words(entityType));
        if (estimate) {
            Resolution resolution = Resolution.of(read.table(), set, overrides);
            String by =
                    judgedBy(rules, attributes, json.write(resolution.found().estimated()));
            return new Judged(resolution, by + " " + keptBy, true, true, false);
        }
        String by = judgedBy(rules, attributes, json.write(setting.weights().get()));
        boolean again = !task.whole() && setting.judgedBy().startsWith(by + " ");
        Resolution resolution = again
                ? Resolution.again(
                        read.table(),
                        set,
                        overrides,
                        setting.weights().get(),
                        earlier(entityType, read.table(), before))
                : Resolution.of(read.table(), set, overrides, setting.weights().get());
        return new Judged(
                resolution, by + " " + keptBy, !again, false, setting.judgedBy().endsWith(" " + keptBy));
    }

    private String judgedBy(PeopleRuleVersions.Numbered rules, List<Attribute> attributes, String weights) {
        PeopleRules one = rules.rules();
        return hash(
                json.write(one.resolutionRules(attributes).rules()),
                json.write(one.resolutionRules(attributes).nicknames().pairs()),
                json.write(one.kept()),
                attributes + " " + one.withoutTag(),
                weights);
    }

    private static String hash(String... texts) {
        return Long.toHexString(new Fingerprint().of(List.of(texts)));
    }

    private Earlier earlier(EntityType entityType, RecordTable table, Map<RecordRef, PeopleStore.Stored> before) {
        Map<RecordRef, Earlier.Then> then = new HashMap<>();
        before.forEach((ref, one) -> then.put(ref, new Earlier.Then(one.signature(), one.person())));
        Set<RecordRef> decided = jdbc.sql(
                        "select max(started_at) as at from identity_run where about = ? and summary is not null")
                .param(entityType.name())
                .query((row, number) -> Rows.optionalTime(row, "at"))
                .single()
                .map(store::decidedSince)
                .orElseGet(HashSet::new);
        return Earlier.of(table, then, store.links(entityType), decided);
    }

    private void stop(long runId, PeopleGuard.GuardStop stopped) {
        jdbc.sql("update identity_run set finished_at = ?, stopped = ?::jsonb where id = ? and finished_at is null")
                .params(Rows.time(clock.instant()), json.write(stopped), runId)
                .update();
    }

    /** @throws Problem if the run was given up meanwhile */
    private void close(long runId, Judged judged, PeopleSummary summary, Instant start) {
        int closed = jdbc.sql("""
                        update identity_run set finished_at = ?, summary = ?::jsonb, whole = ?, started_at = ?
                        where id = ? and finished_at is null
                        """)
                .params(Rows.time(clock.instant()), json.write(summary), judged.whole(), Rows.time(start), runId)
                .update();
        if (closed == 0) {
            throw Problem.conflict("The run was cancelled meanwhile.");
        }
    }
}

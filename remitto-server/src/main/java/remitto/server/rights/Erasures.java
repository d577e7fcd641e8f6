package remitto.server.rights;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.server.footprint.RecordsOfPerson;
import remitto.server.people.EntityType;
import remitto.server.platform.ActorName;
import remitto.server.platform.Json;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.rights.mark.ErasedMarks;
import tools.jackson.databind.JsonNode;

/**
 * Erasures, in their order: what comes in of the person is turned away from the moment somebody asks; then everything here is
 * forgotten, in one transaction, as soon as nothing is under way that could still write of the person; then the records at
 * destinations are removed, each until the destination says so.
 */
@Component
class Erasures {
    private static final Duration SILENT = Duration.ofMinutes(1);

    private final JdbcClient jdbc;
    private final Json json;
    private final TransactionTemplate transactions;
    private final ErasedMarks marks;
    private final RecordsOfPerson found;
    private final Forgetting forgetting;
    private final Clock clock;

    Erasures(
            JdbcClient jdbc,
            Json json,
            TransactionTemplate transactions,
            ErasedMarks marks,
            RecordsOfPerson found,
            Forgetting forgetting,
            Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.transactions = transactions;
        this.marks = marks;
        this.found = found;
        this.forgetting = forgetting;
        this.clock = clock;
    }

    /** How far a removal at a destination has come. */
    enum RemovalState {
        PENDING,
        REMOVED,
        NOT_THERE,
        /** The destination does not let us, or refused; a person has to do it there. */
        BY_HAND,
        DONE_BY_HAND
    }

    /**
     * A record of an erased person in a destination, and whether it was removed.
     *
     * @param remoteId blank once it is removed
     */
    record Removal(
            int number,
            long destinationId,
            String destination,
            String object,
            String remoteId,
            RemovalState state,
            @Personal(Personal.Part.IN_TEXT) String answer,
            Optional<Instant> at) {}

    /**
     * An erasure with its progress and its receipt.
     *
     * @param counts by kind of data, what was forgotten here
     * @param sources by dataset, the rows of the person it has; Remitto reads them and cannot remove them
     * @param underWay what is being done just now, in a sentence; blank when nothing is
     * @param unreached what it could not reach, in sentences; known once all is forgotten here
     * @param waitsFor why it does not go on just now; blank when it does
     * @param letBackIn why its marks were taken away again; blank while they hold
     */
    record Erasure(
            long id,
            String reference,
            @ActorName String askedBy,
            Instant askedAt,
            Optional<Instant> forgottenAt,
            Optional<Instant> finishedAt,
            Map<String, Long> counts,
            Map<String, Long> sources,
            String underWay,
            List<String> unreached,
            String waitsFor,
            String letBackIn,
            List<Removal> removals) {}

    /**
     * What an erasure would do.
     *
     * @param unreached what it could not reach, in sentences
     * @param sharedAddresses addresses that somebody else has too, and that are not marked
     */
    record ErasureOutlook(
            Map<String, Long> sources,
            List<Removal> removals,
            List<String> unreached,
            Map<String, Long> counts,
            long sharedAddresses) {}

    /** Tries it all and takes it back. */
    ErasureOutlook outlook(long person) {
        required(person);
        return transactions.execute(status -> {
            status.setRollbackOnly();
            // Below all that are real, so that their numbers have no gaps.
            long id = insert(person, Optional.of(-1L), "an outlook", "nobody");
            found.find(person);
            forgetting.collect(id);
            long shared = jdbc.sql("""
                            select count(distinct a.hash) from person_address a join person_address o on o.hash = a.hash
                              and o.person_id <> a.person_id where a.person_id = ?
                            """).param(person).query(Long.class).single();
            return new ErasureOutlook(
                    sources(person), removals(id), forgetting.unreached(), forgetting.forget(person), shared);
        });
    }

    private void required(long person) {
        boolean there = jdbc.sql("select exists (select from person where id = ? and about = ?)")
                .params(person, EntityType.PERSON.name())
                .query(Boolean.class)
                .single();
        if (!there) {
            throw Problem.notFound("person " + person);
        }
    }

    private long insert(long person, Optional<Long> id, String reference, String who) {
        return jdbc.sql("""
                        insert into erasure (id, reference, asked_by, asked_at, person_id, sources) overriding system value
                        values (coalesce(?, nextval(pg_get_serial_sequence('erasure', 'id'))), ?, ?, ?, ?, ?::jsonb) returning id
                        """)
                .params(
                        id.orElse(null),
                        reference,
                        who,
                        Rows.time(clock.instant()),
                        person,
                        json.write(sources(person)))
                .query(Long.class)
                .single();
    }

    private Map<String, Long> sources(long person) {
        Map<String, Long> sources = new java.util.TreeMap<>();
        jdbc.sql("""
                        select d.name, count(*) as rows from identity_record r join dataset d on d.id = r.dataset_id
                        where r.person_id = ? group by 1
                        """).param(person).query(row -> {
            sources.put(row.getString("name"), row.getLong("rows"));
        });
        return sources;
    }

    /** Turns away what comes in of the person from now on; all else follows by itself. */
    long ask(long person, String reference, String who) {
        required(person);
        return transactions.execute(status -> {
            boolean already = jdbc.sql("select exists (select from erasure where person_id = ?)")
                    .param(person)
                    .query(Boolean.class)
                    .single();
            if (already) {
                throw Problem.conflict("This person is being erased already.");
            }
            long id = insert(person, Optional.empty(), reference, who);
            found.find(person);
            marks.add(id, forgetting.records(), addresses(person));
            return id;
        });
    }

    /** An address that somebody else has too is not the person's alone. */
    private List<String> addresses(long person) {
        return jdbc.sql("""
                        select a.hash from person_address a where a.person_id = ? and not exists (
                          select from person_address o where o.hash = a.hash and o.person_id <> a.person_id)
                        """).param(person).query(String.class).list();
    }

    /** Erasures that go on, each taken by one process at a time; a process that died gives them up after a minute. */
    List<Long> claim(Instant now) {
        return jdbc.sql("""
                        update erasure set beat_at = :now where finished_at is null
                          and (beat_at is null or beat_at < :silent)
                          and (person_id is not null or exists (select from erasure_removal r where r.erasure_id = id
                            and r.state = 'PENDING')) returning id
                        """)
                .param("now", Rows.time(now))
                .param("silent", Rows.time(now.minus(SILENT)))
                .query(Long.class)
                .list();
    }

    /** Lets it be taken up at the next look, rather than in a minute. */
    void release(long id) {
        jdbc.sql("update erasure set beat_at = null where id = ?").param(id).update();
    }

    /** @return false while something is under way that could still write of the person */
    boolean forget(long id) {
        return Boolean.TRUE.equals(transactions.execute(status -> {
            Optional<Long> person = jdbc.sql("select person_id from erasure where id = ? for update")
                    .param(id)
                    .query((row, number) -> Rows.optionalLong(row, "person_id"))
                    .single();
            if (person.isEmpty()) {
                return true;
            }
            found.find(person.get());
            String waits = underWay(forgetting.routes());
            if (!waits.isEmpty()) {
                waitsFor(id, waits);
                return false;
            }
            // Joined meanwhile with somebody else's records: those are the person's as well.
            marks.add(id, forgetting.records(), addresses(person.get()));
            forgetting.collect(id);
            List<String> unreached = forgetting.unreached();
            Map<String, Long> counts = forgetting.forget(person.get());
            jdbc.sql("""
                            update erasure set person_id = null, forgotten_at = ?, counts = ?::jsonb, unreached = ?::jsonb,
                              waits_for = '' where id = ?
                            """)
                    .params(Rows.time(clock.instant()), json.write(counts), json.write(unreached), id)
                    .update();
            return true;
        }));
    }

    /** Runs that have read what they write before the person was marked; locked, so that none of them begins meanwhile. */
    private String underWay(List<Long> routes) {
        List<String> busy = jdbc.sql("""
                        select 'run ' || r.id || ' of ' || o.name from run r join route o on o.id = r.route_id
                        where r.route_id = any (?) and (r.state in ('PREPARING', 'SENDING')
                          or exists (select 1 from open_call c where c.run_id = r.id and c.answered_at is not null))
                        order by r.id
                        """)
                .param(routes.toArray(Long[]::new))
                .query(String.class)
                .list();
        if (!busy.isEmpty()) {
            return "Waits for the end of " + String.join(", ", busy) + ".";
        }
        jdbc.sql("select id from run where route_id = any (?) and finished_at is null for update")
                .param(routes.toArray(Long[]::new))
                .query(Long.class)
                .list();
        if (jdbc.sql("select exists (select from identity_run where finished_at is null)")
                .query(Boolean.class)
                .single()) {
            return "Waits until matching has run.";
        }
        // Locked, so that none begins before the end of this.
        String stage = jdbc.sql("select stage from audience_setting for update")
                .query(String.class)
                .single();
        return stage.isEmpty() ? "" : "Waits until audiences are refreshed.";
    }

    void waitsFor(long id, String words) {
        jdbc.sql("update erasure set waits_for = ? where id = ?")
                .params(words, id)
                .update();
    }

    void settled(long id, int number, RemovalState state, String answer) {
        boolean over = state != RemovalState.PENDING && state != RemovalState.BY_HAND;
        jdbc.sql("""
                        update erasure_removal set state = ?, answer = ?, at = ?,
                          remote_id = case when ? then '' else remote_id end where erasure_id = ? and number = ?
                        """)
                .params(state.name(), answer, Rows.time(clock.instant()), over, id, number)
                .update();
        finish(id);
    }

    void finish(long id) {
        jdbc.sql("""
                        update erasure set finished_at = ?, waits_for = '' where id = ? and finished_at is null and person_id is null
                          and not exists (select from erasure_removal where erasure_id = erasure.id and state in ('PENDING', 'BY_HAND'))
                        """).params(Rows.time(clock.instant()), id).update();
    }

    List<Removal> removals(long id) {
        return jdbc.sql("select * from erasure_removal where erasure_id = ? order by number")
                .param(id)
                .query((row, number) -> new Removal(
                        row.getInt("number"),
                        row.getLong("destination_id"),
                        row.getString("destination"),
                        row.getString("object"),
                        row.getString("remote_id"),
                        RemovalState.valueOf(row.getString("state")),
                        row.getString("answer"),
                        Rows.optionalTime(row, "at")))
                .list();
    }

    Removal removal(long id, int number) {
        return removals(id).stream()
                .filter(one -> one.number() == number)
                .findFirst()
                .orElseThrow(() -> Problem.notFound("removal " + number));
    }

    List<Erasure> all() {
        return jdbc.sql("select * from erasure order by id desc")
                .query((row, number) -> read(row))
                .list();
    }

    Erasure get(long id) {
        return jdbc.sql("select * from erasure where id = ?")
                .param(id)
                .query((row, number) -> read(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("erasure " + id));
    }

    private Map<String, Long> numbers(String text) {
        Map<String, Long> numbers = new LinkedHashMap<>();
        json.tree(text)
                .properties()
                .forEach(entry -> numbers.put(entry.getKey(), entry.getValue().asLong()));
        return numbers;
    }

    private static String underWay(boolean forgotten, boolean finished, String waits, List<Removal> removals) {
        if (finished || !waits.isEmpty()) {
            return "";
        }
        if (!forgotten) {
            return "All that is kept here of the person is being looked for and taken away.";
        }
        Map<String, Long> pending = removals.stream()
                .filter(one -> one.state() == RemovalState.PENDING)
                .collect(Collectors.groupingBy(Removal::destination, TreeMap::new, Collectors.counting()));
        return pending.isEmpty()
                ? ""
                : pending.entrySet().stream()
                        .map(one ->
                                one.getValue() + (one.getValue() == 1 ? " record at " : " records at ") + one.getKey())
                        .collect(Collectors.joining(", ", "Being removed: ", "."));
    }

    private List<String> sentences(String text) {
        return json.tree(text).valueStream().map(JsonNode::asString).toList();
    }

    private Erasure read(ResultSet row) throws SQLException {
        List<Removal> removals = removals(row.getLong("id"));
        Optional<Instant> forgotten = Rows.optionalTime(row, "forgotten_at");
        Optional<Instant> finished = Rows.optionalTime(row, "finished_at");
        return new Erasure(
                row.getLong("id"),
                row.getString("reference"),
                row.getString("asked_by"),
                Rows.time(row, "asked_at"),
                forgotten,
                finished,
                numbers(row.getString("counts")),
                numbers(row.getString("sources")),
                underWay(forgotten.isPresent(), finished.isPresent(), row.getString("waits_for"), removals),
                sentences(row.getString("unreached")),
                row.getString("waits_for"),
                row.getString("let_back_in"),
                removals);
    }

    /** @return how many marks were taken away */
    int letBackIn(long id, String reason) {
        return transactions.execute(status -> {
            jdbc.sql("update erasure set let_back_in = ? where id = ?")
                    .params(reason, id)
                    .update();
            return marks.take(id);
        });
    }
}

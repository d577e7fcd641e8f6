package remitto.server.audience;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.source.SourceProblem;
import remitto.core.audience.AudienceFault;
import remitto.core.audience.AudienceSpec;
import remitto.server.platform.ActorName;
import remitto.server.platform.LargeQueries;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.platform.Questions;
import remitto.server.platform.Rows;

/** Who is in an audience, from one count until another. Counting sends nothing. */
@Component
class Memberships {
    private final Questions lane;
    /** From so many changes on, the database is told at once that the table is another one. */
    private static final long STATISTICS_CHANGE = 5_000;

    private final AudienceQuestions questions;
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final LargeQueries large;
    private final Clock clock;

    Memberships(
            Questions lane,
            AudienceQuestions questions,
            JdbcClient jdbc,
            JdbcTemplate template,
            LargeQueries large,
            Clock clock) {
        this.lane = lane;
        this.questions = questions;
        this.jdbc = jdbc;
        this.template = template;
        this.large = large;
        this.clock = clock;
    }

    /**
     * A count of an audience.
     *
     * @param members those who can be reached; the control group is beside them
     * @param joined members who were none at the count before
     * @param gone the other way round
     * @param problem why it failed, in which case it changed nothing; blank when it went well
     */
    record MemberCount(
            long id,
            int version,
            Instant countedAt,
            @ActorName String startedBy,
            long members,
            long inControlGroup,
            long joined,
            long gone,
            long millis,
            String problem) {}

    /** Counts the version in service and writes down who joined and who is gone. */
    MemberCount count(Audiences.Audience audience, String who) {
        AudienceSpec spec = audience.liveSpec()
                .orElseThrow(() -> Problem.conflict(
                        "No version of " + audience.name() + " is in service; what is in service is what is counted."));
        int version = audience.liveVersion().orElseThrow();
        Instant now = clock.instant();
        try {
            return large.ask(() -> counted(audience, spec, version, who, now));
        } catch (AudienceFault | Problem | SourceProblem | DataAccessException fault) {
            return get(jdbc.sql("""
                            insert into audience_count (audience_id, version, counted_at, started_by, problem)
                            values (?, ?, ?, ?, ?) returning id
                            """)
                    .params(audience.id(), version, Rows.time(now), who, fault.getMessage())
                    .query(Long.class)
                    .single());
        }
    }

    private MemberCount counted(Audiences.Audience audience, AudienceSpec spec, int version, String who, Instant now) {
        long start = System.nanoTime();
        jdbc.sql("select from audience where id = ? for update")
                .param(audience.id())
                .query()
                .listOfRows();
        template.execute(
                "create temp table fresh_member on commit drop as " + questions.members(audience.entityType(), spec));
        long id = jdbc.sql("""
                        insert into audience_count (audience_id, version, counted_at, started_by) values (?, ?, ?, ?)
                        returning id
                        """)
                .params(audience.id(), version, Rows.time(now), who)
                .query(Long.class)
                .single();
        // One pass over both sides finds all that differ. Row by row would take for ever, and statistics may be old.
        template.execute("set local enable_nestloop = off");
        // Somebody who goes over to the control group, or comes back from it, leaves and joins.
        template.execute("create temp table mover on commit drop as select f.person_id as joins, m.person_id as goes,"
                + " f.held_out as joins_out, m.held_out as goes_out from fresh_member f full join (select person_id, held_out"
                + " from audience_member where audience_id = " + audience.id()
                + " and until is null) m on m.person_id = f.person_id"
                + " where f.person_id is null or m.person_id is null or f.held_out <> m.held_out");
        template.execute("set local enable_nestloop = on");
        template.execute("analyze mover");
        jdbc.sql("""
                        update audience_member m set until = :count from mover v
                        where m.audience_id = :audience and m.person_id = v.goes and m.until is null
                        """).param("count", id).param("audience", audience.id()).update();
        jdbc.sql("""
                        insert into audience_member (audience_id, person_id, held_out, since)
                        select :audience, joins, joins_out, :count from mover where joins is not null
                        """).param("count", id).param("audience", audience.id()).update();
        jdbc.sql("""
                        update audience_count c set members = f.members, held_out = f.held_out, joined = v.joined, gone = v.gone,
                          millis = :millis
                        from (select count(*) filter (where not held_out) as members,
                            count(*) filter (where held_out) as held_out from fresh_member) f,
                          (select count(joins) filter (where not joins_out) as joined,
                            count(goes) filter (where not goes_out) as gone from mover) v
                        where c.id = :id
                        """)
                .param("millis", TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - start))
                .param("id", id)
                .update();
        MemberCount count = get(id);
        if (count.joined() + count.gone() > STATISTICS_CHANGE) {
            template.execute("analyze audience_member");
        }
        template.execute("drop table fresh_member, mover");
        return count;
    }

    private MemberCount get(long id) {
        return jdbc.sql("select * from audience_count where id = ?")
                .param(id)
                .query((row, number) -> read(row))
                .single();
    }

    /** The latest first. */
    List<MemberCount> counts(long audience, int most) {
        return jdbc.sql("select * from audience_count where audience_id = ? order by id desc limit " + most)
                .param(audience)
                .query((row, number) -> read(row))
                .list();
    }

    Optional<MemberCount> latest(long audience) {
        return counts(audience, 1).stream().findFirst();
    }

    private static MemberCount read(ResultSet row) throws SQLException {
        return new MemberCount(
                row.getLong("id"),
                row.getInt("version"),
                Rows.time(row, "counted_at"),
                row.getString("started_by"),
                row.getLong("members"),
                row.getLong("held_out"),
                row.getLong("joined"),
                row.getLong("gone"),
                row.getLong("millis"),
                row.getString("problem"));
    }

    /**
     * What a definition would change of who is a member now.
     *
     * @param examples a few who would join or go
     */
    record MemberEffect(long now, long then, long joins, long goes, List<MemberChange> examples) {}

    /** Somebody who would join, or go. */
    record MemberChange(long personId, @Personal String label, boolean joins) {}

    MemberEffect effect(Audiences.Audience audience, AudienceSpec spec) {
        questions.ask(audience.entityType(), spec);
        return lane.ask(() -> {
            template.execute("create temp table fresh_member on commit drop as "
                    + questions.members(audience.entityType(), spec));
            String now = "(select person_id from audience.member where audience_id = " + audience.id() + ")";
            String then = "(select person_id from fresh_member where not held_out)";
            String joins = "select person_id from " + then + " t where person_id not in " + now;
            String goes = "select person_id from " + now + " n where person_id not in " + then;
            List<MemberChange> movers = jdbc.sql(
                            "(select p.id, p.label, true as joins from person p where id in (" + joins
                                    + ") order by id limit 5) union all (select p.id, p.label, false from person p where id in ("
                                    + goes + ") order by id limit 5)")
                    .query((row, number) ->
                            new MemberChange(row.getLong("id"), row.getString("label"), row.getBoolean("joins")))
                    .list();
            MemberEffect effect = new MemberEffect(
                    number("select count(*) from " + now + " n"),
                    number("select count(*) from " + then + " t"),
                    number("select count(*) from (" + joins + ") j"),
                    number("select count(*) from (" + goes + ") g"),
                    movers);
            template.execute("drop table fresh_member");
            return effect;
        });
    }

    private long number(String sql) {
        return jdbc.sql(sql).query(Long.class).single();
    }

    /** A person in one of these pages. */
    record MemberRow(long personId, @Personal String label, boolean inControlGroup, Instant since) {}

    /** By id, after one. */
    List<MemberRow> members(long audience, long after, int most) {
        return jdbc.sql("""
                        select m.person_id, coalesce(p.label, '') as label, m.held_out, c.counted_at
                        from audience_member m join audience_count c on c.id = m.since
                        left join person p on p.id = m.person_id
                        where m.audience_id = :audience and m.until is null and m.person_id > :after
                        order by m.person_id limit :most
                        """)
                .param("audience", audience)
                .param("after", after)
                .param("most", most)
                .query((row, number) -> new MemberRow(
                        row.getLong("person_id"),
                        row.getString("label"),
                        row.getBoolean("held_out"),
                        Rows.time(row, "counted_at")))
                .list();
    }

    /**
     * A stay of a person in an audience.
     *
     * @param until absent while it goes on
     */
    record AudienceStay(
            long audienceId, String audience, boolean inControlGroup, Instant since, Optional<Instant> until) {}

    /** All stays of a person, the latest first. */
    List<AudienceStay> ofPerson(long person) {
        return jdbc.sql("""
                        select a.id, a.name, m.held_out, s.counted_at as since, u.counted_at as until
                        from audience_member m join audience a on a.id = m.audience_id
                        join audience_count s on s.id = m.since left join audience_count u on u.id = m.until
                        where m.person_id = ? order by s.counted_at desc, a.name
                        """)
                .param(person)
                .query((row, number) -> new AudienceStay(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getBoolean("held_out"),
                        Rows.time(row, "since"),
                        Rows.optionalTime(row, "until")))
                .list();
    }

    /** People whom two audiences have both. */
    record Overlap(long oneId, long otherId, long people) {}

    /** Each pair once; pairs without anybody in both are missing. */
    List<Overlap> overlaps() {
        return jdbc.sql("""
                        select a.audience_id as one, b.audience_id as other, count(*) as people
                        from audience.member a join audience.member b on b.person_id = a.person_id
                          and b.audience_id > a.audience_id
                        group by 1, 2 order by 1, 2
                        """)
                .query((row, number) -> new Overlap(row.getLong("one"), row.getLong("other"), row.getLong("people")))
                .list();
    }
}

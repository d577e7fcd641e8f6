package remitto.server.audience;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import java.util.zip.CRC32;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import remitto.connect.postgres.PostgresText;
import remitto.connect.source.Reading;
import remitto.connect.source.SourceQuery;
import remitto.core.audience.AudienceFault;
import remitto.core.audience.AudienceSpec;
import remitto.core.audience.Condition;
import remitto.core.audience.Window;
import remitto.core.audience.sql.AudienceSql;
import remitto.server.journal.Journal;
import remitto.server.measure.Population;
import remitto.server.people.EntityType;
import remitto.server.people.person.PersonFacts;
import remitto.server.platform.CopyParts;
import remitto.server.platform.Problem;
import remitto.server.source.OwnSql;
import remitto.server.source.Sources;

/** Turns what an audience says into questions to the database, with everything it speaks of looked up first. */
@Component
class AudienceQuestions {
    private final OwnSql ownSql;
    private static final Duration SQL_TIME = Duration.ofMinutes(10);

    private final Population population;
    private final PersonFacts facts;
    private final Sources sources;
    private final JdbcTemplate template;
    private final Clock clock;

    AudienceQuestions(
            OwnSql ownSql,
            Population population,
            PersonFacts facts,
            Sources sources,
            JdbcTemplate template,
            Clock clock) {
        this.ownSql = ownSql;
        this.population = population;
        this.facts = facts;
        this.sources = sources;
        this.template = template;
        this.clock = clock;
    }

    static ZoneId zone(String name) {
        if (!ZoneId.getAvailableZoneIds().contains(name)) {
            throw Problem.invalid("\"" + name + "\" is no time zone; name one such as Europe/Oslo.");
        }
        return ZoneId.of(name);
    }

    Window.Now now(AudienceSpec spec) {
        return new Window.Now(clock.instant(), zone(spec.zone()));
    }

    AudienceSql over(EntityType entityType, AudienceSpec spec) {
        return new AudienceSql(population.words(entityType), population.storage(entityType), now(spec));
    }

    AudienceSql overSample(EntityType entityType, AudienceSpec spec) {
        return new AudienceSql(population.words(entityType), population.sample(), now(spec));
    }

    /**
     * What somebody asks who has not saved it: bounded like any definition, and SQL only from those who may run it.
     *
     * @throws Problem or AudienceFault telling what cannot be asked
     */
    void ask(EntityType entityType, AudienceSpec spec) {
        if (spec.bySql()) {
            ownSql.run(spec.sql(), new Journal.Subject("audience", 0, "unsaved audience"));
        }
        check(entityType, spec);
    }

    /**
     * Everything a definition says, checked before anything is done with it.
     *
     * @throws AudienceFault telling what cannot be asked
     */
    void check(EntityType entityType, AudienceSpec spec) {
        spec.checkBounds();
        if (spec.bySql()) {
            PostgresText.query(spec.sql());
        } else {
            over(entityType, spec).members(spec);
        }
    }

    /**
     * A query of person_id and held_out. What somebody wrote in SQL runs as the people's own reader, which sees nothing
     * else and writes nothing; its ids are put into a temporary table of this transaction first.
     */
    String members(EntityType entityType, AudienceSpec spec) {
        if (!spec.bySql()) {
            return over(entityType, spec).members(spec);
        }
        long source = facts.source()
                .orElseThrow(() -> Problem.invalid(
                        "Set up the source of people first; the operations guide describes its login."));
        String table = "by_sql_" + Long.toHexString(crc(spec.sql()));
        template.execute("drop table if exists " + table);
        template.execute("create temp table " + table + " (person_id text) on commit drop");
        CopyParts parts = new CopyParts(template, table);
        Reading ids = Reading.all(SourceQuery.text(spec.sql()), List.of("person_id"), SQL_TIME);
        sources.rows(source).read(ids, cells -> {
            String cell = cells[0];
            if (cell != null && !cell.isBlank()) {
                parts.row().text(cell.strip()).endRow();
            }
            return true;
        });
        parts.end();
        return AudienceSql.apart(
                spec,
                "select p.person_id from " + population.storage(entityType).people()
                        + " p where p.person_id::text in (select person_id from " + table + ")");
    }

    private static long crc(String text) {
        CRC32 crc = new CRC32();
        crc.update(text.getBytes(StandardCharsets.UTF_8));
        return crc.getValue();
    }

    /** The condition that all lines must meet, and each line of it; a condition of another kind is its own only line. */
    static List<Condition> lines(Condition condition) {
        return condition instanceof Condition.AllOf all && !all.conditions().isEmpty()
                ? all.conditions()
                : List.of(condition);
    }
}

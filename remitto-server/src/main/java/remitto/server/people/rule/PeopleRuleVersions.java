package remitto.server.people.rule;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.people.EntityType;
import remitto.server.people.source.PeopleSources;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.platform.VersionNote;

/** Versions of the rules that decide who is one person. The first is what ships, as somebody first looks at it. */
@Component
public class PeopleRuleVersions {
    private final JdbcClient jdbc;
    private final Json json;
    private final PeopleSources sources;
    private final PeopleSettings settings;
    private final Clock clock;

    PeopleRuleVersions(JdbcClient jdbc, Json json, PeopleSources sources, PeopleSettings settings, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.sources = sources;
        this.settings = settings;
        this.clock = clock;
    }

    /** A version of the rules. */
    public record Numbered(int number, PeopleRules rules) {}

    public List<VersionNote> versions(EntityType entityType) {
        return jdbc.sql("""
                        select number, author, saved_at, note from identity_rules where about = ? order by number desc
                        """).param(entityType.name()).query(VersionNote::read).list();
    }

    /** The latest saved version, which need not be the one in service. */
    public Numbered latest(EntityType entityType) {
        return jdbc.sql("select number from identity_rules where about = ? order by number desc limit 1")
                .param(entityType.name())
                .query(Integer.class)
                .optional()
                .map(number -> version(entityType, number))
                .orElseGet(() -> shipped(entityType));
    }

    /** The version that runs go by. */
    public Numbered inService(EntityType entityType) {
        int live = settings.of(entityType).liveRules();
        return live == 0 ? shipped(entityType) : version(entityType, live);
    }

    private Numbered shipped(EntityType entityType) {
        return new Numbered(0, PeopleRules.usual(sources.attributes(entityType)));
    }

    /** @param number 0 for what ships */
    public Numbered version(EntityType entityType, int number) {
        if (number == 0) {
            return shipped(entityType);
        }
        return jdbc.sql("select definition from identity_rules where about = ? and number = ?")
                .params(entityType.name(), number)
                .query(String.class)
                .optional()
                .map(text -> new Numbered(number, json.read(text, PeopleRules.class)))
                .orElseThrow(() -> Problem.notFound("version " + number + " of the rules"));
    }

    /** @throws Problem if somebody saved another version since, or the rules cannot be followed */
    @Transactional
    public int save(EntityType entityType, int basedOn, PeopleRules rules, String who, String note) {
        rules.check(sources.attributes(entityType));
        if (latest(entityType).number() != basedOn) {
            throw Problem.conflict("Someone saved another version meanwhile. Reload to see it.");
        }
        jdbc.sql("""
                        insert into identity_rules (about, number, definition, author, saved_at, note)
                        values (?, ?, ?::jsonb, ?, ?, ?)
                        """)
                .params(entityType.name(), basedOn + 1, json.write(rules), who, Rows.time(clock.instant()), note)
                .update();
        return basedOn + 1;
    }

    /** Runs go by it from the next on. */
    public void putInService(EntityType entityType, int number, String who) {
        version(entityType, number).rules().check(sources.attributes(entityType));
        settings.live(entityType, number, who);
    }

    /** Who saved a version; blank for what ships. */
    String author(EntityType entityType, int number) {
        Optional<String> author = jdbc.sql("select author from identity_rules where about = ? and number = ?")
                .params(entityType.name(), number)
                .query(String.class)
                .optional();
        return author.orElse("");
    }
}

package remitto.server.people.rule;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.people.About;
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

    public List<VersionNote> versions(About about) {
        return jdbc.sql("""
                        select number, author, saved_at, note from identity_rules where about = ? order by number desc
                        """).param(about.name()).query(VersionNote::read).list();
    }

    /** The latest saved version, which need not be the one in service. */
    public Numbered latest(About about) {
        return jdbc.sql("select number from identity_rules where about = ? order by number desc limit 1")
                .param(about.name())
                .query(Integer.class)
                .optional()
                .map(number -> version(about, number))
                .orElseGet(() -> shipped(about));
    }

    /** The version that runs go by. */
    public Numbered inService(About about) {
        int live = settings.of(about).liveRules();
        return live == 0 ? shipped(about) : version(about, live);
    }

    private Numbered shipped(About about) {
        return new Numbered(0, PeopleRules.usual(sources.attributes(about)));
    }

    /** @param number 0 for what ships */
    public Numbered version(About about, int number) {
        if (number == 0) {
            return shipped(about);
        }
        return jdbc.sql("select definition from identity_rules where about = ? and number = ?")
                .params(about.name(), number)
                .query(String.class)
                .optional()
                .map(text -> new Numbered(number, json.read(text, PeopleRules.class)))
                .orElseThrow(() -> Problem.notFound("version " + number + " of the rules"));
    }

    /** @throws Problem if somebody saved another version since, or the rules cannot be followed */
    @Transactional
    public int save(About about, int basedOn, PeopleRules rules, String who, String note) {
        rules.check(sources.attributes(about));
        if (latest(about).number() != basedOn) {
            throw Problem.conflict("Someone saved another version meanwhile. Reload to see it.");
        }
        jdbc.sql("""
                        insert into identity_rules (about, number, definition, author, saved_at, note)
                        values (?, ?, ?::jsonb, ?, ?, ?)
                        """)
                .params(about.name(), basedOn + 1, json.write(rules), who, Rows.time(clock.instant()), note)
                .update();
        return basedOn + 1;
    }

    /** Runs go by it from the next on. */
    public void putInService(About about, int number, String who) {
        version(about, number).rules().check(sources.attributes(about));
        settings.live(about, number, who);
    }

    /** Who saved a version; blank for what ships. */
    String author(About about, int number) {
        Optional<String> author = jdbc.sql("select author from identity_rules where about = ? and number = ?")
                .params(about.name(), number)
                .query(String.class)
                .optional();
        return author.orElse("");
    }
}

package remitto.server.profile;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.connect.profile.Profile;
import remitto.connect.profile.ProfileReader;
import remitto.server.platform.ActorName;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.platform.VersionNote;

/** Profiles and their versions, which never change once saved. */
@Component
public class Profiles {
    private static final String SELECT = """
            select p.profile, p.latest_version, p.live_version, v.body, v.author, v.saved_at,
                   (select count(*) from destination d where d.profile = p.profile) as destinations
            from profile p join profile_version v on v.profile = p.profile and v.number = p.latest_version
            """;

    private final JdbcClient jdbc;
    private final ProfileReader reader;
    private final Clock clock;

    Profiles(JdbcClient jdbc, ProfileReader reader, Clock clock) {
        this.jdbc = jdbc;
        this.reader = reader;
        this.clock = clock;
    }

    /**
     * A profile with its text and its versions.
     *
     * @param text YAML of the latest saved version, which need not be the one in service
     */
    public record SavedProfile(
            String profile,
            String title,
            int latestVersion,
            Optional<Integer> liveVersion,
            @ActorName String author,
            Instant savedAt,
            long destinations,
            String text) {}

    /** A destination that another version in service touches, with its routes. */
    record TouchedDestination(long id, String name, int version, List<String> routes) {}

    public List<SavedProfile> all() {
        return jdbc.sql(SELECT + " where p.archived_at is null order by v.title")
                .query((row, number) -> saved(row))
                .list();
    }

    public SavedProfile get(String profile) {
        return find(profile).orElseThrow(() -> Problem.notFound("profile " + profile));
    }

    private Optional<SavedProfile> find(String profile) {
        return jdbc.sql(SELECT + " where p.profile = ?")
                .param(profile)
                .query((row, number) -> saved(row))
                .optional();
    }

    public Profile version(String profile, int number) {
        return reader.readSaved(text(profile, number));
    }

    /** A profile as it is in service, with the number of its version. */
    public record LiveProfile(int number, Profile profile) {}

    public LiveProfile inService(String profile) {
        SavedProfile saved = get(profile);
        int number = saved.liveVersion()
                .orElseThrow(() -> Problem.conflict(
                        "No version of profile " + profile + " is in service yet; put one in service first."));
        return new LiveProfile(number, version(profile, number));
    }

    String text(String profile, int number) {
        return jdbc.sql("select body from profile_version where profile = ? and number = ?")
                .params(profile, number)
                .query(String.class)
                .optional()
                .orElseThrow(() -> Problem.notFound("version " + number + " of profile " + profile));
    }

    List<VersionNote> versions(String profile) {
        return jdbc.sql("""
                        select number, author, saved_at, note from profile_version where profile = ? order by number desc
                        """).param(profile).query(VersionNote::read).list();
    }

    List<TouchedDestination> touched(String profile) {
        return jdbc.sql("""
                        select d.id, d.name, d.profile_version,
                               (select coalesce(string_agg(r.name, E'\\n' order by r.name), '')
                                from route r where r.destination_id = d.id) as routes
                        from destination d where d.profile = ? order by d.name
                        """)
                .param(profile)
                .query((row, at) -> new TouchedDestination(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getInt("profile_version"),
                        row.getString("routes").lines().toList()))
                .list();
    }

    @Transactional
    void add(Profile profile, String text, String author, String note) {
        int added = jdbc.sql(
                        "insert into profile (profile, latest_version) values (?, 1) on conflict (profile) do nothing")
                .param(profile.profile())
                .update();
        if (added == 0) {
            throw Problem.conflict("A profile already has the name " + profile.profile()
                    + ". Save a version of it, or give this one another name.");
        }
        saveVersion(profile, 1, text, author, note);
    }

    /** @throws Problem if somebody saved another version since {@code basedOn} */
    @Transactional
    int save(Profile profile, int basedOn, String text, String author, String note) {
        int changed = jdbc.sql("""
                        update profile set latest_version = latest_version + 1 where profile = ? and latest_version = ?
                        """).params(profile.profile(), basedOn).update();
        if (changed == 0) {
            throw Problem.conflict("Someone saved another version meanwhile. Reload to see it.");
        }
        saveVersion(profile, basedOn + 1, text, author, note);
        return basedOn + 1;
    }

    private void saveVersion(Profile profile, int number, String text, String author, String note) {
        jdbc.sql("""
                        insert into profile_version (profile, number, title, body, saved_at, author, note)
                        values (?, ?, ?, ?, ?, ?, ?)
                        """)
                .params(profile.profile(), number, profile.title(), text, Rows.time(clock.instant()), author, note)
                .update();
    }

    /** From now on every destination of the profile is called as this version says. */
    @Transactional
    void putInService(String profile, int number) {
        jdbc.sql("update profile set live_version = ? where profile = ?")
                .params(number, profile)
                .update();
        jdbc.sql("update destination set profile_version = ?, revision = revision + 1 where profile = ?")
                .params(number, profile)
                .update();
        jdbc.sql("""
                        update destination_object set described_at = ? where described_at is not null
                          and destination_id in (select id from destination where profile = ?)
                        """).params(Rows.time(Instant.EPOCH), profile).update();
    }

    /** Takes in a profile that ships: a new one goes into service, another version of one that is known does not. */
    @Transactional
    void takeIn(String text) {
        Profile profile = reader.read(text);
        Optional<SavedProfile> known = find(profile.profile());
        if (known.isEmpty()) {
            add(profile, text, ShippedProfiles.AUTHOR, "");
            putInService(profile.profile(), 1);
            return;
        }
        boolean seen = jdbc.sql("select exists (select 1 from profile_version where profile = ? and body = ?)")
                .params(profile.profile(), text)
                .query(Boolean.class)
                .single();
        if (!seen) {
            save(profile, known.get().latestVersion(), text, ShippedProfiles.AUTHOR, "ships with this release");
        }
    }

    private SavedProfile saved(ResultSet row) throws SQLException {
        String text = row.getString("body");
        return new SavedProfile(
                row.getString("profile"),
                reader.readSaved(text).title(),
                row.getInt("latest_version"),
                Rows.optionalInt(row, "live_version"),
                row.getString("author"),
                Rows.time(row, "saved_at"),
                row.getLong("destinations"),
                text);
    }
}

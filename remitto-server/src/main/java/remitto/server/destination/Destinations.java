package remitto.server.destination;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.connect.destination.Destination.ObjectSummary;
import remitto.connect.file.FilePlaces;
import remitto.connect.profile.Profile;
import remitto.core.destination.ObjectDescription;
import remitto.core.known.Fingerprint;
import remitto.server.platform.Json;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.secret.Place;
import remitto.server.secret.Secrets;

/** The tools that receive data, with the objects they described last. */
@Component
public class Destinations {
    private static final String SELECT = """
            select d.id, d.name, d.profile, d.profile_version, p.title, d.settings, d.sign_in, d.limits_off, d.tested_at,
                   d.test_result, d.test_problem,
                   (select count(*) from route r where r.destination_id = d.id and r.archived_at is null) as routes
            from destination d join profile_version p on p.profile = d.profile and p.number = d.profile_version
            """;

    private final JdbcClient jdbc;
    private final Json json;
    private final Secrets secrets;
    private final Clock clock;

    Destinations(JdbcClient jdbc, Json json, Secrets secrets, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.secrets = secrets;
        this.clock = clock;
    }

    /**
     * A destination without its secrets.
     *
     * @param settings the connection's settings that are no secrets
     * @param signIn the way to sign in, blank for the first
     */
    public record DestinationView(
            long id,
            String name,
            String profile,
            int profileVersion,
            String title,
            Map<String, String> settings,
            String signIn,
            boolean limitsOff,
            Optional<Instant> testedAt,
            @Personal(Personal.Part.IN_TEXT) String result,
            @Personal(Personal.Part.IN_TEXT) String problem,
            long routes) {}

    /**
     * An object of a destination.
     *
     * @param described when the tool described its fields last; absent before the first time
     */
    public record ObjectView(String name, String title, boolean people, Optional<Instant> described, int fields) {}

    /** An object's description with a fingerprint of it, which changes whenever anything in it does. */
    public record Described(ObjectDescription description, long fingerprint, Instant at) {}

    public List<DestinationView> all() {
        return jdbc.sql(SELECT + " where d.archived_at is null order by d.name")
                .query((row, number) -> view(row))
                .list();
    }

    public DestinationView get(long id) {
        return jdbc.sql(SELECT + " where d.id = ?")
                .param(id)
                .query((row, number) -> view(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("destination " + id));
    }

    Map<String, String> secrets(long id) {
        return jdbc.sql("select secret from destination where id = ?")
                .param(id)
                .query(byte[].class)
                .optional()
                .map(kept -> secrets.open(place(id), kept))
                .orElseThrow(() -> Problem.notFound("destination " + id));
    }

    /**
     * What a person said about a connection.
     *
     * @param signIn the way to sign in, blank for the first
     */
    record Wanted(String name, Map<String, String> settings, String signIn, boolean limitsOff) {}

    int revision(long id) {
        return jdbc.sql("select revision from destination where id = ?")
                .param(id)
                .query(Integer.class)
                .optional()
                .orElseThrow(() -> Problem.notFound("destination " + id));
    }

    /** The connection is another: what its objects are like depends on who asks, so that they are described again. */
    @Transactional
    void revise(long id) {
        jdbc.sql("update destination set revision = revision + 1 where id = ?")
                .param(id)
                .update();
        jdbc.sql("update destination_object set described_at = ? where destination_id = ? and described_at is not null")
                .params(Rows.time(Instant.EPOCH), id)
                .update();
    }

    /** The name of a route in service that writes there; empty if there is none. */
    Optional<String> routeInService(long id) {
        return jdbc.sql("""
                        select name from route where destination_id = ? and live_version is not null order by name limit 1
                        """).param(id).query(String.class).optional();
    }

    @Transactional
    long add(Wanted wanted, Profile profile, int version) {
        requireFolderApart(0, wanted, profile);
        // Known first, since secrets are sealed for the row that they are kept in.
        long id = jdbc.sql("select nextval(pg_get_serial_sequence('destination', 'id'))")
                .query(Long.class)
                .single();
        jdbc.sql("""
                        insert into destination
                          (id, name, profile, profile_version, settings, secret, sign_in, limits_off, created_at)
                        overriding system value values (?, ?, ?, ?, ?::jsonb, ?, ?, ?, ?)
                        """)
                .params(
                        id,
                        wanted.name(),
                        profile.profile(),
                        version,
                        json.write(part(profile, wanted.settings(), false)),
                        secrets.seal(place(id), part(profile, wanted.settings(), true)),
                        wanted.signIn(),
                        wanted.limitsOff(),
                        Rows.time(clock.instant()))
                .update();
        jdbc.sql("insert into rate_limit (destination_id, next_at) values (?, ?)")
                .params(id, Rows.time(clock.instant()))
                .update();
        return id;
    }

    private static Place place(long id) {
        return Place.of("destination", id);
    }

    /**
     * Two destinations never write to one folder of this machine: one would replace, or hand on, what is meant for the other.
     *
     * @param id of the destination itself; 0 for one that is new
     */
    private void requireFolderApart(long id, Wanted wanted, Profile profile) {
        if (!profile.speaks().equals(Optional.of(Profile.Speaks.FOLDER))) {
            return;
        }
        jdbc.sql("select pg_advisory_xact_lock(hashtext('folders of destinations'))")
                .query((row, number) -> true)
                .single();
        String folder = wanted.settings().getOrDefault("base_address", "");
        all().stream()
                .filter(other -> other.id() != id && other.profile().equals(profile.profile()))
                .filter(other -> !FilePlaces.apart(folder, other.settings().getOrDefault("base_address", "")))
                .findFirst()
                .ifPresent(other -> {
                    throw Problem.invalid("The folder " + (folder.isBlank() ? "of all files" : folder)
                            + " is shared with destination " + other.name() + ". Choose one that is neither"
                            + " its folder, nor within it, nor around it.");
                });
    }

    /** Secrets that are not among the settings stay as they are. */
    @Transactional
    void change(long id, Wanted wanted, Profile profile) {
        requireFolderApart(id, wanted, profile);
        Map<String, String> kept = new java.util.HashMap<>(secrets(id));
        part(profile, wanted.settings(), true).forEach((key, value) -> {
            if (!value.isEmpty()) {
                kept.put(key, value);
            }
        });
        jdbc.sql("update destination set name = ?, settings = ?::jsonb, secret = ?, sign_in = ? where id = ?")
                .params(
                        wanted.name(),
                        json.write(part(profile, wanted.settings(), false)),
                        secrets.seal(place(id), kept),
                        wanted.signIn(),
                        id)
                .update();
    }

    private static Map<String, String> part(Profile profile, Map<String, String> settings, boolean secret) {
        Map<String, String> part = new java.util.TreeMap<>();
        profile.connection().stream()
                .filter(setting -> setting.isSecret() == secret)
                .forEach(setting -> part.put(
                        setting.name(),
                        settings.getOrDefault(setting.name(), "").strip()));
        return part;
    }

    void tested(long id, String result, String problem) {
        jdbc.sql("update destination set tested_at = ?, test_result = ?, test_problem = ? where id = ?")
                .params(Rows.time(clock.instant()), result, problem, id)
                .update();
    }

    /** Keeps what the tool has now; one that is gone stays as long as a route names it. */
    @Transactional
    void rememberObjects(long id, List<ObjectSummary> objects) {
        jdbc.sql("""
                        delete from destination_object o where o.destination_id = :id and not o.object = any (:now)
                          and not exists (select 1 from route r where r.destination_id = o.destination_id
                            and r.object = o.object)
                        """)
                .param("id", id)
                .param("now", objects.stream().map(ObjectSummary::name).toArray(String[]::new))
                .update();
        objects.forEach(object -> jdbc.sql("""
                        insert into destination_object (destination_id, object, title, people) values (?, ?, ?, ?)
                        on conflict (destination_id, object) do update
                        set title = excluded.title, people = excluded.people
                        """)
                .params(id, object.name(), object.title(), object.people())
                .update());
    }

    Described rememberDescription(long id, ObjectDescription description) {
        String text = json.write(description);
        long fingerprint = new Fingerprint().of(List.of(text));
        jdbc.sql("""
                        insert into destination_object
                          (destination_id, object, title, people, description, fingerprint, described_at)
                        values (?, ?, ?, ?, ?::jsonb, ?, ?)
                        on conflict (destination_id, object) do update
                        set description = excluded.description, fingerprint = excluded.fingerprint,
                            described_at = excluded.described_at
                        """)
                .params(
                        id,
                        description.name(),
                        description.title(),
                        description.people(),
                        text,
                        fingerprint,
                        Rows.time(clock.instant()))
                .update();
        return new Described(description, fingerprint, clock.instant());
    }

    public List<ObjectView> objects(long id) {
        return jdbc.sql("""
                        select object, title, people, described_at,
                               coalesce(jsonb_array_length(description -> 'fields'), 0) as fields
                        from destination_object where destination_id = ? order by title
                        """)
                .param(id)
                .query((row, number) -> new ObjectView(
                        row.getString("object"),
                        row.getString("title"),
                        row.getBoolean("people"),
                        Rows.optionalTime(row, "described_at"),
                        row.getInt("fields")))
                .list();
    }

    /** As the tool described it last; the tool is not asked. */
    public Optional<Described> description(long id, String object) {
        return jdbc.sql("""
                        select description, fingerprint, described_at from destination_object
                        where destination_id = ? and object = ? and description is not null
                        """)
                .params(id, object)
                .query((row, number) -> new Described(
                        json.read(row.getString("description"), ObjectDescription.class),
                        row.getLong("fingerprint"),
                        Rows.time(row, "described_at")))
                .optional();
    }

    @SuppressWarnings("unchecked")
    private DestinationView view(ResultSet row) throws SQLException {
        return new DestinationView(
                row.getLong("id"),
                row.getString("name"),
                row.getString("profile"),
                row.getInt("profile_version"),
                row.getString("title"),
                json.read(row.getString("settings"), Map.class),
                row.getString("sign_in"),
                row.getBoolean("limits_off"),
                Rows.optionalTime(row, "tested_at"),
                Rows.optionalText(row, "test_result").orElse(""),
                Rows.optionalText(row, "test_problem").orElse(""),
                row.getLong("routes"));
    }
}

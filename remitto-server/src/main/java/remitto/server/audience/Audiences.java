package remitto.server.audience;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.core.audience.AudienceSpec;
import remitto.server.dataset.MadeDatasets;
import remitto.server.event.References;
import remitto.server.people.EntityType;
import remitto.server.platform.ActorName;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.platform.VersionNote;

/** Audiences and their versions, which never change once saved. */
@Component
class Audiences {
    private static final String SELECT = """
            select a.*, v.definition, v.author, v.saved_at, l.definition as live_definition,
              (select count(*) from dataset d join route r on r.dataset_id = d.id where d.audience_id = a.id) as routes
            from audience a
            join audience_version v on v.audience_id = a.id and v.number = a.latest_version
            left join audience_version l on l.audience_id = a.id and l.number = a.live_version
            """;

    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;
    private final References references;
    private final MadeDatasets made;

    Audiences(JdbcClient jdbc, Json json, Clock clock, References references, MadeDatasets made) {
        this.made = made;
        this.references = references;
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /**
     * An audience, with the numbers of its versions and its latest count.
     *
     * @param spec of the latest saved version, which need not be the one in service
     * @param routes that send its people
     * @param countFirst whether they count it before they prepare a manifest
     */
    record Audience(
            long id,
            String name,
            String description,
            EntityType entityType,
            int latestVersion,
            Optional<Integer> liveVersion,
            @ActorName String author,
            Instant savedAt,
            long routes,
            boolean countFirst,
            AudienceSpec spec,
            Optional<AudienceSpec> liveSpec) {}

    /**
     * A version of an audience to be saved.
     *
     * @param basedOn the version that was changed; 0 for a new audience
     */
    record AudienceDraft(
            String name,
            String description,
            EntityType entityType,
            int basedOn,
            AudienceSpec spec,
            Optional<String> note) {}

    List<Audience> all() {
        return jdbc.sql(SELECT + " order by a.name")
                .query((row, number) -> read(row))
                .list();
    }

    Audience get(long id) {
        return jdbc.sql(SELECT + " where a.id = ?")
                .param(id)
                .query((row, number) -> read(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("audience " + id));
    }

    AudienceSpec version(long id, int number) {
        return jdbc.sql("select definition from audience_version where audience_id = ? and number = ?")
                .params(id, number)
                .query((row, index) -> json.read(row.getString("definition"), AudienceSpec.class))
                .optional()
                .orElseThrow(() -> Problem.notFound("version " + number + " of audience " + id));
    }

    List<VersionNote> versions(long id) {
        return jdbc.sql("""
                        select number, author, saved_at, note from audience_version where audience_id = ?
                        order by number desc
                        """).param(id).query(VersionNote::read).list();
    }

    @Transactional
    long add(AudienceDraft draft, String author) {
        named(draft, 0);
        notWithinItself(0, draft.spec());
        long id = jdbc.sql("""
                        insert into audience (name, description, about, latest_version, created_at) values (?, ?, ?, 1, ?)
                        returning id
                        """)
                .params(
                        draft.name().strip(),
                        draft.description(),
                        draft.entityType().name(),
                        Rows.time(clock.instant()))
                .query(Long.class)
                .single();
        saveVersion(id, 1, draft, author);
        return id;
    }

    /** @throws Problem if somebody saved another version meanwhile */
    @Transactional
    int save(long id, AudienceDraft draft, String author) {
        named(draft, id);
        notWithinItself(id, draft.spec());
        int changed = jdbc.sql("""
                        update audience set name = ?, description = ?, latest_version = latest_version + 1
                        where id = ? and latest_version = ?
                        """)
                .params(draft.name().strip(), draft.description(), id, draft.basedOn())
                .update();
        if (changed == 0) {
            throw Problem.conflict("Someone saved another version meanwhile. Reload to see it.");
        }
        saveVersion(id, draft.basedOn() + 1, draft, author);
        return draft.basedOn() + 1;
    }

    /** An audience that is counted by itself would be another with every count. */
    private void notWithinItself(long id, AudienceSpec spec) {
        Map<Long, Audience> all = new HashMap<>();
        all().forEach(one -> all.put(one.id(), one));
        Set<Long> seen = new HashSet<>();
        ArrayDeque<Long> open = new ArrayDeque<>(spec.audiences());
        while (!open.isEmpty()) {
            long next = open.removeFirst();
            if (next == id) {
                throw Problem.invalid("An audience cannot be within itself, also not by way of others.");
            }
            Audience other = Optional.ofNullable(all.get(next))
                    .orElseThrow(() -> Problem.invalid("There is no audience " + next + "."));
            if (seen.add(next)) {
                open.addAll(other.spec().audiences());
                other.liveSpec().ifPresent(live -> open.addAll(live.audiences()));
            }
        }
    }

    private void named(AudienceDraft draft, long id) {
        if (draft.name().isBlank()) {
            throw Problem.invalid("Give the audience a name.");
        }
        if (all().stream()
                .anyMatch(one -> one.id() != id
                        && one.name().equalsIgnoreCase(draft.name().strip()))) {
            throw Problem.conflict(
                    "An audience already has the name " + draft.name().strip() + ".");
        }
    }

    void putInService(long id, int version) {
        jdbc.sql("update audience set live_version = ? where id = ?")
                .params(version, id)
                .update();
    }

    /**
     * Removes an audience with all that was counted of it, and the datasets over it that no route carries.
     *
     * @throws Problem if something builds on it
     */
    @Transactional
    void remove(long id) {
        List<String> users = new ArrayList<>(references.of("audience", id));
        users.removeIf(("audience " + get(id).name())::equals);
        if (users.isEmpty()) {
            users.addAll(made.remove(MadeDatasets.MadeOf.AUDIENCE, id));
        }
        if (!users.isEmpty()) {
            throw Problem.conflict(get(id).name() + " is used by " + String.join(", ", users) + ".");
        }
        for (String sql : List.of(
                "delete from audience_member where audience_id = ?",
                "delete from audience_count where audience_id = ?",
                "delete from audience_version where audience_id = ?",
                "delete from audience where id = ?")) {
            jdbc.sql(sql).param(id).update();
        }
    }

    void countFirst(long id, boolean on) {
        jdbc.sql("update audience set count_first = ? where id = ?")
                .params(on, id)
                .update();
    }

    private void saveVersion(long id, int number, AudienceDraft draft, String author) {
        jdbc.sql("""
                        insert into audience_version (audience_id, number, definition, author, saved_at, note)
                        values (?, ?, ?::jsonb, ?, ?, ?)
                        """)
                .params(
                        id,
                        number,
                        json.write(draft.spec()),
                        author,
                        Rows.time(clock.instant()),
                        draft.note().orElse(""))
                .update();
    }

    private Audience read(ResultSet row) throws SQLException {
        return new Audience(
                row.getLong("id"),
                row.getString("name"),
                row.getString("description"),
                EntityType.valueOf(row.getString("about")),
                row.getInt("latest_version"),
                Rows.optionalInt(row, "live_version"),
                row.getString("author"),
                Rows.time(row, "saved_at"),
                row.getLong("routes"),
                row.getBoolean("count_first"),
                json.read(row.getString("definition"), AudienceSpec.class),
                Rows.optionalText(row, "live_definition").map(text -> json.read(text, AudienceSpec.class)));
    }
}

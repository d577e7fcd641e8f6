package remitto.server.label;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.platform.Problem;

/** Keeps owners and tags. */
@Component
class Labels {
    static final int LONGEST_TAG = 40;
    static final int MOST_TAGS = 20;
    static final int MOST_AT_ONCE = 1_000;

    private final JdbcClient jdbc;

    Labels(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * Owner and tags of something.
     *
     * @param ownerId the account; absent for nobody
     * @param owner its name
     */
    record Label(long id, Optional<Long> ownerId, Optional<String> owner, List<String> tags) {}

    /** Somebody who can own something. */
    record Colleague(long id, String name) {}

    /**
     * A change of several things at once.
     *
     * @param ids of the things
     * @param ownerId whose they are from now on; absent to leave that as it is
     * @param withoutOwner they are nobody's from now on
     * @param add tags that each gets
     * @param remove tags that each loses
     */
    record LabelChange(
            List<Long> ids, Optional<Long> ownerId, boolean withoutOwner, List<String> add, List<String> remove) {}

    List<Label> all(LabelKind kind) {
        return jdbc.sql("""
                        select l.thing_id, l.owner_id, u.name as owner, l.tags from label l left join app_user u on u.id = l.owner_id
                        where l.kind = ? order by l.thing_id
                        """)
                .param(kind.name())
                .query((row, number) -> {
                    long owner = row.getLong("owner_id");
                    boolean owned = !row.wasNull();
                    return new Label(
                            row.getLong("thing_id"),
                            owned ? Optional.of(owner) : Optional.empty(),
                            owned ? Optional.of(row.getString("owner")) : Optional.empty(),
                            Arrays.asList((String[]) row.getArray("tags").getArray()));
                })
                .list();
    }

    List<Colleague> colleagues() {
        return jdbc.sql("select id, name from app_user where active and kind = 'PERSON' order by lower(name), id")
                .query((row, number) -> new Colleague(row.getLong("id"), row.getString("name")))
                .list();
    }

    /** A thing that was changed, by its name. */
    record Changed(long id, String name) {}

    /** @throws Problem if something is not there, or a tag is none */
    @Transactional
    List<Changed> change(LabelKind kind, LabelChange change) {
        List<Long> ids = change.ids().stream().distinct().sorted().toList();
        if (ids.isEmpty() || ids.size() > MOST_AT_ONCE) {
            throw Problem.invalid("Choose between 1 and " + MOST_AT_ONCE + " things.");
        }
        List<String> add = tags(change.add());
        List<String> remove = change.remove().stream().map(String::strip).toList();
        List<Changed> there = jdbc.sql("select id, name from " + kind.table() + " where id = any (?) order by id")
                .param(ids.toArray(Long[]::new))
                .query((row, number) -> new Changed(row.getLong("id"), row.getString("name")))
                .list();
        if (there.size() != ids.size()) {
            throw Problem.invalid("One of the chosen " + kind.table() + "s no longer exists. Reload the list.");
        }
        change.ownerId().ifPresent(this::requireColleague);
        for (long id : ids) {
            jdbc.sql("insert into label (kind, thing_id) values (?, ?) on conflict do nothing")
                    .params(kind.name(), id)
                    .update();
            TreeSet<String> now = new TreeSet<>(Arrays.asList(jdbc.sql(
                            "select tags from label where kind = ? and thing_id = ? for update")
                    .params(kind.name(), id)
                    .query((row, number) -> (String[]) row.getArray("tags").getArray())
                    .single()));
            now.addAll(add);
            now.removeAll(remove);
            if (now.size() > MOST_TAGS) {
                throw Problem.invalid("Something can have at most " + MOST_TAGS + " tags.");
            }
            jdbc.sql("""
                            update label set tags = :tags, owner_id = case when :without then null
                              else coalesce(:owner::bigint, owner_id) end
                            where kind = :kind and thing_id = :id
                            """)
                    .param("tags", now.toArray(String[]::new))
                    .param("without", change.withoutOwner())
                    .param("owner", change.ownerId().orElse(null))
                    .param("kind", kind.name())
                    .param("id", id)
                    .update();
        }
        return there;
    }

    /** What a change does, in words. */
    String words(LabelChange change) {
        List<String> words = new ArrayList<>();
        change.add().forEach(tag -> words.add("tag " + tag.strip() + " added"));
        change.remove().forEach(tag -> words.add("tag " + tag.strip() + " removed"));
        change.ownerId()
                .flatMap(id ->
                        colleagues().stream().filter(one -> one.id() == id).findFirst())
                .ifPresent(owner -> words.add("owned by " + owner.name()));
        if (change.withoutOwner()) {
            words.add("owned by nobody");
        }
        return String.join(", ", words);
    }

    private void requireColleague(long owner) {
        if (colleagues().stream().noneMatch(one -> one.id() == owner)) {
            throw Problem.invalid("There is no active account of that number to own it.");
        }
    }

    private static List<String> tags(List<String> wanted) {
        List<String> tags = wanted.stream().map(String::strip).distinct().toList();
        for (String tag : tags) {
            if (tag.isEmpty() || tag.length() > LONGEST_TAG) {
                throw Problem.invalid("A tag has between 1 and " + LONGEST_TAG + " characters.");
            }
        }
        return tags;
    }
}

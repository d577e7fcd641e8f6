package remitto.server.definition;

import java.text.Normalizer;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Names that definitions have as files (slugs). Each is made of what the definition was called when it was first asked for, and stays
 * from then on, whatever it is called later.
 */
@Component
class DefinitionNames {
    static final String FORM = "[a-z0-9][a-z0-9_-]{0,79}";
    private static final int LONGEST = 60;

    private final JdbcClient jdbc;

    DefinitionNames(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * The names of all that is there of a kind, by id; what has none is given one. Names of what is no longer there are free again.
     *
     * @param called by id, what each is called
     * @param reserved names that stand for something else
     */
    @Transactional
    public Map<String, String> of(String kind, Map<String, String> called, Collection<String> reserved) {
        Map<String, String> known = known(kind, called.keySet());
        Set<String> taken = new HashSet<>(known.values());
        taken.addAll(reserved);
        called.forEach((id, name) -> {
            if (!known.containsKey(id)) {
                String slug = free(slug(name, kind), taken);
                taken.add(slug);
                give(kind, id, slug);
            }
        });
        // Somebody else may have been first; what is written down is what counts.
        return known(kind, called.keySet());
    }

    /** Gives a definition the name of the file that it was made of. */
    @Transactional
    public void give(String kind, String id, String slug) {
        jdbc.sql("delete from definition_name where kind = ? and slug = ? and id <> ?")
                .params(kind, slug, id)
                .update();
        jdbc.sql("insert into definition_name (kind, id, slug) values (?, ?, ?) on conflict (kind, id) do nothing")
                .params(kind, id, slug)
                .update();
    }

    private Map<String, String> known(String kind, Collection<String> ids) {
        Map<String, String> known = new LinkedHashMap<>();
        jdbc.sql("select id, slug from definition_name where kind = ? and id = any (?) order by id")
                .params(kind, ids.toArray(String[]::new))
                .query(row -> {
                    known.put(row.getString("id"), row.getString("slug"));
                });
        return known;
    }

    private static String free(String slug, Set<String> taken) {
        String free = slug;
        for (int number = 2; taken.contains(free); number++) {
            free = slug + "-" + number;
        }
        return free;
    }

    /** Letters and digits of a name without their marks, in lower case, with hyphens between words. */
    static String slug(String name, String kind) {
        String plain = Normalizer.normalize(name, Normalizer.Form.NFKD)
                .replaceAll("\\p{M}", "")
                .toLowerCase(Locale.ROOT)
                .replace("ø", "o")
                .replace("æ", "ae")
                .replace("ß", "ss")
                .replaceAll("[^a-z0-9_]+", "-")
                .replaceAll("^[-_]+", "");
        String cut = plain.substring(0, Math.min(LONGEST, plain.length())).replaceAll("[-_]+$", "");
        return cut.isEmpty() ? kind : cut;
    }
}

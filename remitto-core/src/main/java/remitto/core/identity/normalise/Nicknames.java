package remitto.core.identity.normalise;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;

/** Which given names are short for which; a table that people edit. One short form may stand for several names, as Alex does. */
public final class Nicknames {
    private final List<Nickname> pairs;
    private final Map<String, Set<String>> longForms = new HashMap<>();

    /** @param pairs short form, long form; spelled in any way */
    public Nicknames(List<Nickname> pairs) {
        this.pairs = List.copyOf(pairs);
        PlainText plain = new PlainText();
        pairs.forEach(pair -> longForms
                .computeIfAbsent(plain.of(pair.nickname()), fresh -> new HashSet<>())
                .add(plain.of(pair.name())));
    }

    public List<Nickname> pairs() {
        return pairs;
    }

    public Nicknames with(List<Nickname> more) {
        return new Nicknames(Stream.concat(pairs.stream(), more.stream()).toList());
    }

    /** @param shortForms spelled as in the table */
    public Nicknames without(List<String> shortForms) {
        return new Nicknames(pairs.stream()
                .filter(pair -> !shortForms.contains(pair.nickname()))
                .toList());
    }

    /**
     * The tables that come with Remitto: English ones of "nicknames" 1.0.1 by Carlton Northern and Nick Crews (Apache License 2.0), and
     * common short forms of other languages, from memory.
     */
    public static Nicknames shipped() {
        return new Nicknames(Stream.of("nicknames.csv", "nicknames-english.csv")
                .flatMap(Nicknames::table)
                .distinct()
                .toList());
    }

    private static Stream<Nickname> table(String name) {
        try (InputStream in = Nicknames.class.getResourceAsStream(name)) {
            String text = new String(Objects.requireNonNull(in).readAllBytes(), StandardCharsets.UTF_8);
            return text.lines().skip(1).map(line -> line.split(",")).map(cells -> new Nickname(cells[0], cells[1]));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A line of the table. */
    public record Nickname(String nickname, String name) {}

    /** Whether two given names, by the first of each, may be one: one is short for the other, or both are for a third. */
    public boolean mayBeOne(String one, String other) {
        String first = first(one);
        String second = first(other);
        Set<String> firsts = longForms.getOrDefault(first, Set.of());
        Set<String> seconds = longForms.getOrDefault(second, Set.of());
        return first.equals(second)
                || firsts.contains(second)
                || seconds.contains(first)
                || firsts.stream().anyMatch(seconds::contains);
    }

    private static String first(String given) {
        int space = given.indexOf(' ');
        return space < 0 ? given : given.substring(0, space);
    }
}

package remitto.core.identity.tidy;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;

/** Which given names are short for which; a small table that people edit. */
public final class Nicknames {
    private final List<Nickname> pairs;
    private final Map<String, String> longForm = new HashMap<>();

    /** @param pairs short form, long form; spelled in any way; the last of one short form counts */
    public Nicknames(List<Nickname> pairs) {
        this.pairs = List.copyOf(pairs);
        PlainText plain = new PlainText();
        pairs.forEach(pair -> longForm.put(plain.of(pair.nickname()), plain.of(pair.name())));
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

    /** The table that comes with Remitto; common short forms of several languages, from memory. */
    public static Nicknames shipped() {
        try (InputStream in = Nicknames.class.getResourceAsStream("nicknames.csv")) {
            String text = new String(Objects.requireNonNull(in).readAllBytes(), StandardCharsets.UTF_8);
            return new Nicknames(text.lines()
                    .skip(1)
                    .map(line -> line.split(","))
                    .map(cells -> new Nickname(cells[0], cells[1]))
                    .toList());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A line of the table. */
    public record Nickname(String nickname, String name) {}

    /** The name that a first given name stands for; itself when it stands for no other. */
    public String standsFor(String given) {
        int space = given.indexOf(' ');
        String first = space < 0 ? given : given.substring(0, space);
        return longForm.getOrDefault(first, first);
    }
}

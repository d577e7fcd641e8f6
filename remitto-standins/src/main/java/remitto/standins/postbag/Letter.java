package remitto.standins.postbag;

import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import tools.jackson.databind.JsonNode;

/**
 * How a letter reads to somebody: traits between double angle brackets, with what is written where there is none after
 * "else"; and what stands between "each" and "end" once for every row of a trait that holds rows.
 */
final class Letter {
    private static final Pattern BLANK = Pattern.compile("<<\\s*([a-z0-9_]+)\\s*(?:,\\s*else\\s+([^>]*))?>>");
    private static final Pattern EACH =
            Pattern.compile("<<\\s*each\\s+([a-z0-9_]+)\\s*>>\\R?(.*?)<<\\s*end\\s*>>\\R?", Pattern.DOTALL);

    private Letter() {}

    static String read(String text, JsonNode person) {
        return filled(
                EACH.matcher(text).replaceAll(found -> {
                    StringBuilder rows = new StringBuilder();
                    person.path(found.group(1)).forEach(row -> rows.append(filled(found.group(2), row)));
                    return Matcher.quoteReplacement(rows.toString());
                }),
                person);
    }

    private static String filled(String text, JsonNode of) {
        return BLANK.matcher(text).replaceAll(found -> {
            String value = of.path(found.group(1)).asString("");
            String instead = Optional.ofNullable(found.group(2)).orElse("").strip();
            return Matcher.quoteReplacement(value.isEmpty() ? instead : value);
        });
    }
}

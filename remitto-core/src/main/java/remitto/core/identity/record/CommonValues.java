package remitto.core.identity.record;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Values that say nothing of who somebody is, such as a blank form's "000000" or an address of a front desk that half the
 * records carry. They would glue people together and are left out. Found by how often they occur and by their shape; common
 * practice, without a source.
 */
public record CommonValues(List<Common> list) {
    private static final Pattern CONSTANT = Pattern.compile("\\+?(\\d)\\1+|(.)\\2*|\\+?(?:0?123456789?0?)");
    private static final Set<String> WORDS = Set.of("unknown", "anonymous", "test", "ukjent", "unbekannt", "xxx");
    private static final Set<String> WORDS_NO_NUMBER =
            Set.of("none", "na", "no", "nobody", "noemail", "noreply", "null");

    /** @param records that carry it */
    public record Common(String attribute, String value, int records, String reason) {}

    public CommonValues {
        list = List.copyOf(list);
    }

    /** The values of one attribute. */
    Set<String> of(String attribute) {
        Set<String> values = new HashSet<>();
        list.stream().filter(one -> one.attribute().equals(attribute)).forEach(one -> values.add(one.value()));
        return values;
    }

    /**
     * @param most records that may share an e-mail address, a phone number or an identifier, as a family does
     * @param kept attribute and value of those a person decided to use after all, as listed
     */
    public static CommonValues find(RecordTable table, int most, Set<Common> kept) {
        List<Common> found = new ArrayList<>();
        for (int a = 0; a < table.attributes().size(); a++) {
            Attribute attribute = table.attributes().get(a);
            Dictionary dictionary = table.dictionary(a);
            for (int code = 1; code < dictionary.size(); code++) {
                String reason = reason(attribute.kind(), dictionary.value(code), dictionary.count(code), most);
                if (!reason.isEmpty()) {
                    found.add(new Common(attribute.name(), dictionary.value(code), dictionary.count(code), reason));
                }
            }
        }
        found.removeIf(one -> kept.stream()
                .anyMatch(keep ->
                        keep.attribute().equals(one.attribute()) && keep.value().equals(one.value())));
        found.sort(Comparator.comparing(Common::records)
                .reversed()
                .thenComparing(Common::attribute)
                .thenComparing(Common::value));
        return new CommonValues(found);
    }

    private static String reason(Attribute.Kind kind, String value, int records, int most) {
        boolean identifies =
                kind == Attribute.Kind.EMAIL || kind == Attribute.Kind.PHONE || kind == Attribute.Kind.IDENTIFIER;
        String bare = kind == Attribute.Kind.EMAIL ? value.substring(0, Math.max(0, value.indexOf('@'))) : value;
        if (WORDS.contains(bare) || identifies && WORDS_NO_NUMBER.contains(bare)) {
            return "a word for having none";
        }
        if (identifies && bare.length() > 1 && CONSTANT.matcher(bare).matches()) {
            return "one sign over and over, or digits in a row";
        }
        return identifies && records > most ? "more than " + most + " records share it" : "";
    }
}

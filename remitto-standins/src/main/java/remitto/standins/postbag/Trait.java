package remitto.standins.postbag;

import java.util.List;
import java.util.Optional;
import tools.jackson.databind.JsonNode;

/**
 * What is kept of a person.
 *
 * @param holds text, amount, date, tick, pick, or rows: several things, each with names of its own
 * @param picks the values to pick from; empty unless it holds a pick
 * @param owned values that only the person may change
 * @param must everybody has one
 * @param single nobody has the same as another
 * @param added by whoever writes the letters
 */
record Trait(
        String trait,
        String called,
        String holds,
        List<String> picks,
        List<String> owned,
        boolean must,
        boolean single,
        boolean added) {
    static Trait of(String trait, String called, String holds) {
        boolean mail = trait.equals("mail");
        return new Trait(trait, called, holds, List.of(), List.of(), mail, mail, false);
    }

    /** Why a value is not taken; empty when it is. */
    Optional<String> fault(JsonNode value) {
        if (value.isNull()) {
            return trait.equals("mail") ? Optional.of("everybody has a mail address") : Optional.empty();
        }
        boolean fits =
                switch (holds) {
                    case "amount" -> value.isNumber();
                    case "tick" -> value.isBoolean();
                    case "date" -> value.asString("").matches("\\d{4}-\\d{2}-\\d{2}");
                    case "rows" -> value.isArray() && value.valueStream().allMatch(JsonNode::isObject);
                    case "pick" -> picks.contains(value.asString(""));
                    default -> value.isString();
                };
        if (!fits) {
            return Optional.of(called + (holds.equals("pick") ? " is one of " + picks : " holds " + holds));
        }
        return trait.equals("mail") && !value.asString().matches("[^@\\s]+@[^@\\s]+\\.[^@\\s]+")
                ? Optional.of("this is no mail address")
                : Optional.empty();
    }
}

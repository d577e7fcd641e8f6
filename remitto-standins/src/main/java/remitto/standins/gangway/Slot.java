package remitto.standins.gangway;

import java.util.Optional;
import tools.jackson.databind.JsonNode;

/**
 * One slot of a user or company.
 *
 * @param takes words, number, day or flag
 * @param own added by whoever runs the desk
 */
record Slot(String slot, String label, String takes, boolean must, boolean onlyOne, int longest, boolean own) {

    /** Why a value is not taken; empty when it is. */
    Optional<String> fault(JsonNode value) {
        if (value.isNull()) {
            return must ? Optional.of(label + " cannot be empty") : Optional.empty();
        }
        boolean fits =
                switch (takes) {
                    case "number" -> value.isNumber();
                    case "flag" -> value.isBoolean();
                    case "day" -> value.asString("").matches("\\d{4}-\\d{2}-\\d{2}");
                    default -> value.isString();
                };
        if (!fits) {
            return Optional.of(label + " takes " + takes);
        }
        return value.isString() && value.asString().length() > longest
                ? Optional.of(label + " takes " + longest + " characters at most")
                : Optional.empty();
    }
}

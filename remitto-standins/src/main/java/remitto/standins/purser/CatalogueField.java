package remitto.standins.purser;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;

/** A field of a Purser object and the rules a value must meet. */
record CatalogueField(
        String name,
        String title,
        String kind,
        @JsonProperty("required") Optional<Boolean> mustHave,
        @JsonProperty("unique") Optional<Boolean> mustBeUnique,
        @JsonProperty("read_only") Optional<Boolean> computed,
        @JsonProperty("writable") Optional<Boolean> mayWrite,
        @JsonProperty("custom") Optional<Boolean> added,
        @JsonProperty("max_length") Optional<Integer> maxLength,
        @JsonProperty("choices") Optional<List<String>> list,
        @JsonProperty("refers_to") Optional<String> refersTo) {
    private static final Pattern PHONE = Pattern.compile("\\+[1-9]\\d{1,14}");
    private static final Pattern EMAIL = Pattern.compile("[^@\\s]+@[^@\\s]+\\.[^@\\s]+");

    /** The same field after somebody changed it. */
    CatalogueField changed(String change, String value) {
        return switch (change) {
            case "shrink" -> with(mustHave, mayWrite, Optional.of(Integer.parseInt(value)), list);
            case "require" -> with(Optional.of(true), mayWrite, maxLength, list);
            case "relax" -> with(Optional.of(false), Optional.of(true), Optional.empty(), list);
            case "lock" -> with(mustHave, Optional.of(false), maxLength, list);
            case "drop-choice" ->
                with(mustHave, mayWrite, maxLength, list.map(choices -> choices.stream()
                        .filter(choice -> !choice.equals(value))
                        .toList()));
            case "add-choice" ->
                with(mustHave, mayWrite, maxLength, list.map(choices -> Stream.concat(
                                choices.stream(), Stream.of(value))
                        .toList()));
            default -> throw new IllegalArgumentException("no change " + change);
        };
    }

    private CatalogueField with(
            Optional<Boolean> must, Optional<Boolean> may, Optional<Integer> length, Optional<List<String>> choices) {
        return new CatalogueField(
                name, title, kind, must, mustBeUnique, computed, may, added, length, choices, refersTo);
    }

    boolean required() {
        return mustHave.orElse(false);
    }

    boolean unique() {
        return mustBeUnique.orElse(false);
    }

    boolean readOnly() {
        return computed.orElse(false);
    }

    /** Whether an outside client may write it. People at the desk may. */
    boolean writable() {
        return mayWrite.orElse(true);
    }

    boolean custom() {
        return added.orElse(false);
    }

    List<String> choices() {
        return list.orElse(List.of());
    }

    /** Why a value that is not null is refused: a code and a message. */
    Optional<Problem> check(JsonNode value) {
        boolean fits =
                switch (kind) {
                    case "integer" -> value.isIntegralNumber();
                    case "decimal" -> value.isNumber();
                    case "boolean" -> value.isBoolean();
                    case "list" -> value.isArray() && value.valueStream().allMatch(JsonNode::isString);
                    default -> value.isString();
                };
        if (!fits) {
            return Optional.of(new Problem(name, "wrong_type", title + " takes " + kind));
        }
        return value.isString() ? checkText(value.asString()) : Optional.empty();
    }

    private Optional<Problem> checkText(String text) {
        if (maxLength.isPresent() && text.codePointCount(0, text.length()) > maxLength.get()) {
            return Optional.of(
                    new Problem(name, "too_long", title + " takes at most " + maxLength.get() + " characters"));
        }
        return switch (kind) {
            case "choice" ->
                choices().contains(text)
                        ? Optional.empty()
                        : Optional.of(new Problem(name, "not_in_list", "\"" + text + "\" is not a choice of " + title));
            case "phone" ->
                PHONE.matcher(text).matches()
                        ? Optional.empty()
                        : Optional.of(
                                new Problem(name, "wrong_type", "\"" + text + "\" is not an international number"));
            case "email" ->
                EMAIL.matcher(text).matches()
                        ? Optional.empty()
                        : Optional.of(new Problem(name, "wrong_type", "\"" + text + "\" is not an address"));
            case "date" ->
                isDate(text)
                        ? Optional.empty()
                        : Optional.of(new Problem(name, "wrong_type", "\"" + text + "\" is not a date"));
            default -> Optional.empty();
        };
    }

    private static boolean isDate(String text) {
        try {
            LocalDate.parse(text);
            return true;
        } catch (RuntimeException e) {
            return false;
        }
    }

    /** The form in which two values are compared for being the same. */
    static Object comparable(JsonNode value) {
        if (value.isNumber()) {
            BigDecimal number = value.decimalValue();
            return number.signum() == 0 ? BigDecimal.ZERO : number.stripTrailingZeros();
        }
        if (value.isArray()) {
            return value.toString();
        }
        return value.isBoolean() ? (Object) value.booleanValue() : value.asString();
    }
}

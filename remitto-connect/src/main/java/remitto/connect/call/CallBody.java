package remitto.connect.call;

import java.net.URLDecoder;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Predicate;
import remitto.connect.rowfile.JsonRecord;
import remitto.core.receiver.CallHeaders;
import remitto.core.receiver.ReceiverDefinition;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;

/**
 * Reads the body of a call: JSON (RFC 8259), fields of a form (WHATWG URL, section 5.1), and CloudEvents (version 1.0.2) as one, as
 * several, and with their attributes in headers (HTTP protocol binding, section 3).
 */
public final class CallBody {
    private static final int MOST_RECORDS = 10_000;
    private static final String FORM = "application/x-www-form-urlencoded";
    private static final String EVENT = "application/cloudevents";
    private static final String ATTRIBUTE = "ce-";

    private CallBody() {}

    /** What a body holds. */
    public sealed interface Read {
        /** @param records in their order */
        record Records(List<CallRecord> records) implements Read {}

        /** @param problem a sentence that says why it holds no records, and where */
        record Unreadable(String problem) implements Read {}
    }

    /** @param at names on the way to the list of records, with full stops between; blank if the body is one record or a list of them */
    public static Read read(CallHeaders headers, byte[] body, String at) {
        String text;
        try {
            text = StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(body))
                    .toString();
        } catch (CharacterCodingException e) {
            return new Read.Unreadable("The body is not in UTF-8.");
        }
        text = text.startsWith("\uFEFF") ? text.substring(1) : text;
        String type = headers.get("Content-Type").orElse("").toLowerCase(Locale.ROOT);
        Map<String, String> named = named(headers);
        if (type.startsWith(FORM)) {
            return form(text, named);
        }
        boolean attributes = headers.get(ATTRIBUTE + "specversion").isPresent();
        if (attributes && (text.isBlank() || !type.isEmpty() && !type.contains("json"))) {
            Map<String, String> values = attributes(headers);
            values.put("data", text);
            return one(values, named, true);
        }
        if (text.isBlank()) {
            return new Read.Unreadable("The body is empty.");
        }
        JsonNode node;
        try {
            node = JsonRecord.one(text);
        } catch (JacksonException e) {
            return new Read.Unreadable(JsonRecord.words(e).replace("The row", "The body"));
        }
        boolean events = attributes || type.startsWith(EVENT);
        return attributes ? wrapped(headers, node, named) : records(node, at, named, events);
    }

    /** A body without some of its records. */
    public sealed interface Less {
        /** None of them was in it. */
        record Same() implements Less {}

        /** Nothing is left of it. */
        record Nothing() implements Less {}

        /** It cannot be read, so that nobody knows. */
        record NoRecords() implements Less {}

        /** @param body with the others */
        record Others(byte[] body) implements Less {}
    }

    /**
     * Takes records out of a body.
     *
     * @param at as for reading
     * @param gone which of them, by their values
     */
    public static Less without(CallHeaders headers, byte[] body, String at, Predicate<Map<String, String>> gone) {
        if (!(read(headers, body, at) instanceof Read.Records read)) {
            return new Less.NoRecords();
        }
        List<Integer> numbers = read.records().stream()
                .filter(one -> gone.test(one.values()))
                .map(CallRecord::number)
                .toList();
        if (numbers.isEmpty()) {
            return new Less.Same();
        }
        if (numbers.size() == read.records().size()) {
            return new Less.Nothing();
        }
        JsonNode whole = JsonRecord.one(new String(body, StandardCharsets.UTF_8).replaceFirst("^\uFEFF", ""));
        ArrayNode list = (ArrayNode) place(whole, at);
        for (int i = numbers.size() - 1; i >= 0; i--) {
            list.remove(numbers.get(i) - 1);
        }
        return new Less.Others(whole.toString().getBytes(StandardCharsets.UTF_8));
    }

    private static JsonNode place(JsonNode body, String at) {
        JsonNode node = body;
        if (!at.isBlank()) {
            for (String name : at.strip().split("\\.")) {
                node = node.path(name);
            }
        }
        return node;
    }

    private static Map<String, String> named(CallHeaders headers) {
        Map<String, String> named = new LinkedHashMap<>();
        headers.values().forEach((name, value) -> named.put(ReceiverDefinition.HEADER + name, value));
        return named;
    }

    private static Read one(Map<String, String> values, Map<String, String> named, boolean event) {
        return new Read.Records(List.of(record(1, values, named, event)));
    }

    private static CallRecord record(int number, Map<String, String> values, Map<String, String> named, boolean event) {
        Map<String, String> all = new LinkedHashMap<>(values);
        all.putAll(named);
        return new CallRecord(number, all, event ? event(values) : message(named, number), "");
    }

    /** Standard Webhooks (version 1.0.0) has an id that is the same whenever a message is sent again. It is of the whole body. */
    private static String message(Map<String, String> named, int number) {
        String id = named.getOrDefault(ReceiverDefinition.HEADER + "webhook-id", "");
        return id.isEmpty() ? "" : id + " " + number;
    }

    /** The specification's section 3.1.1: the id is unique for its source. */
    private static String event(Map<String, String> values) {
        String id = values.getOrDefault("id", "");
        return id.isEmpty() ? "" : values.getOrDefault("source", "") + " " + id;
    }

    private static Read form(String text, Map<String, String> named) {
        Map<String, String> values = new LinkedHashMap<>();
        for (String pair : text.strip().split("&")) {
            int equals = pair.indexOf('=');
            try {
                String name = URLDecoder.decode(equals < 0 ? pair : pair.substring(0, equals), StandardCharsets.UTF_8);
                String value = equals < 0 ? "" : URLDecoder.decode(pair.substring(equals + 1), StandardCharsets.UTF_8);
                if (!name.isEmpty()) {
                    values.merge(name, value, (first, second) -> first + "," + second);
                }
            } catch (IllegalArgumentException e) {
                return new Read.Unreadable("The form's field \"" + shortened(pair) + "\" is not percent-encoded.");
            }
        }
        return values.isEmpty() ? new Read.Unreadable("The body is empty.") : one(values, named, false);
    }

    private static Map<String, String> attributes(CallHeaders headers) {
        Map<String, String> attributes = new LinkedHashMap<>();
        headers.values().forEach((name, value) -> {
            if (name.startsWith(ATTRIBUTE)) {
                attributes.put(name.substring(ATTRIBUTE.length()), decoded(value));
            }
        });
        return attributes;
    }

    /** HTTP protocol binding, section 3.1.3.2: percent-encoded, where a plus is a plus. */
    private static String decoded(String value) {
        try {
            return URLDecoder.decode(value.replace("+", "%2B"), StandardCharsets.UTF_8);
        } catch (IllegalArgumentException e) {
            return value;
        }
    }

    private static Read wrapped(CallHeaders headers, JsonNode data, Map<String, String> named) {
        Map<String, String> values = attributes(headers);
        if (data.isObject()) {
            JsonRecord.flat(data).forEach((name, value) -> values.put("data." + name, value));
        } else if (!data.isNull()) {
            values.put("data", data.isString() ? data.stringValue() : data.toString());
        }
        return one(values, named, true);
    }

    private static Read records(JsonNode body, String at, Map<String, String> named, boolean events) {
        JsonNode node = place(body, at);
        if (node.isMissingNode()) {
            return new Read.Unreadable("The body has nothing at " + at.strip() + ".");
        }
        if (node.isObject()) {
            return one(JsonRecord.flat(node), named, events);
        }
        if (!node.isArray()) {
            return new Read.Unreadable(
                    at.isBlank()
                            ? "The body is neither an object nor a list of objects."
                            : "What is at " + at.strip() + " is neither an object nor a list of objects.");
        }
        if (node.size() > MOST_RECORDS) {
            return new Read.Unreadable("The body holds more than 10,000 records.");
        }
        List<CallRecord> records = new ArrayList<>();
        for (JsonNode one : node) {
            int number = records.size() + 1;
            records.add(
                    one.isObject()
                            ? record(number, JsonRecord.flat(one), named, events)
                            : new CallRecord(number, Map.of(), "", "is no object"));
        }
        return new Read.Records(records);
    }

    private static String shortened(String text) {
        return text.length() <= 100 ? text : text.substring(0, 100) + "…";
    }
}

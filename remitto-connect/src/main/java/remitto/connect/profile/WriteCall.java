package remitto.connect.profile;

import java.io.ByteArrayOutputStream;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import remitto.connect.destination.Destination.Batch;
import remitto.connect.destination.Destination.Outgoing;
import remitto.core.value.Value;
import tools.jackson.core.JsonGenerator;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** One writing call as a profile says it: its path, headers and body with the batch filled in. */
final class WriteCall {
    /** Names a call by run and number, so that a tool's people and ours can speak of the same one. */
    private static final String CALL_HEADER = "X-Request-ID";

    private static final Set<String> IN_TEXT = Set.of("object", "key_field", "once", "id", "key");
    private static final Set<String> OF_A_RECORD = Set.of("id", "key", "fields");

    private final Profile.Write how;
    private final Batch batch;
    private final UnaryOperator<String> setting;
    private final ObjectMapper json;

    WriteCall(Profile.Write how, Batch batch, UnaryOperator<String> setting, ObjectMapper json) {
        this.how = how;
        this.batch = batch;
        this.setting = setting;
        this.json = json;
    }

    /** A call that cannot be made of this record, since a value that it needs is not written or does not fit. */
    static final class NoValue extends RuntimeException {
        NoValue(String message) {
            super(message);
        }

        static NoValue of(String name) {
            return new NoValue("the call needs " + name.substring(Placeholders.ONE_FIELD.length())
                    + ", which this record does not write");
        }
    }

    /** @throws NoValue if it names a field that the record does not write */
    String path() {
        return Template.text(how.path(), name -> URLEncoder.encode(required(name), StandardCharsets.UTF_8)
                .replace("+", "%20"));
    }

    /** @throws NoValue if one names a field that the record does not write */
    Map<String, String> headers() {
        Map<String, String> headers = new HashMap<>();
        headers.put(CALL_HEADER, batch.onceKey());
        how.onceHeader().ifPresent(name -> headers.put(name, batch.onceKey()));
        how.contentType().or(() -> how.bodyAs().type()).ifPresent(type -> headers.put("Content-Type", type));
        how.headers().orElse(Map.of()).forEach((name, text) -> headers.put(name, inHeader(name, text)));
        return headers;
    }

    /** Header values are ASCII here: what else they may be is read differently by every server (RFC 9110, 5.5). */
    private String inHeader(String name, String text) {
        String value = Template.text(text, this::required).strip();
        if (value.chars().anyMatch(c -> c < ' ' || c > '~')) {
            throw new NoValue("the header " + name + " cannot hold a value with other characters than ASCII has");
        }
        return value;
    }

    /** @throws NoValue if a text names a field that the record does not write */
    byte[] body() {
        if (how.body().isEmpty()) {
            return new byte[0];
        }
        JsonNode body = how.body().get();
        return switch (how.bodyAs()) {
            case JSON -> asJson(body);
            case FORM -> asForm(body).getBytes(StandardCharsets.UTF_8);
            case TEXT -> Template.text(body.asString(""), this::required).getBytes(StandardCharsets.UTF_8);
        };
    }

    private byte[] asJson(JsonNode body) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(8_192);
        try (JsonGenerator out = json.createGenerator(bytes)) {
            Template.write(body, new OfTheCall(), out);
        }
        return bytes.toByteArray();
    }

    /** Pairs (application/x-www-form-urlencoded, WHATWG URL); a field that the record does not write is not among them. */
    private String asForm(JsonNode body) {
        List<String> pairs = new ArrayList<>();
        if (body.isString() && body.asString().equals("{fields}")) {
            one().fields().forEach((field, value) -> pairs.add(pair(field, value.display())));
        } else {
            body.properties().forEach(entry -> formText(entry.getValue())
                    .ifPresent(text -> pairs.add(pair(entry.getKey(), text))));
        }
        return String.join("&", pairs);
    }

    private Optional<String> formText(JsonNode node) {
        if (!node.isString()) {
            return Optional.of(node.asString(node.toString()));
        }
        Optional<String> named = Template.named(node.asString());
        return named.isPresent() ? text(named.get()) : Optional.of(Template.text(node.asString(), this::required));
    }

    private static String pair(String name, String value) {
        return URLEncoder.encode(name, StandardCharsets.UTF_8) + "=" + URLEncoder.encode(value, StandardCharsets.UTF_8);
    }

    private Outgoing one() {
        return batch.records().get(0);
    }

    /** Texts that were saved before names were checked may hold others; those are left as they are. */
    private static boolean inText(String name) {
        return IN_TEXT.contains(name)
                || name.startsWith(Placeholders.ONE_FIELD)
                || name.startsWith(Placeholders.ONE_SETTING);
    }

    private static String asItIs(String name) {
        return "{" + name + "}";
    }

    private String required(String name) {
        return inText(name) ? text(name).orElseThrow(() -> NoValue.of(name)) : asItIs(name);
    }

    /** What a name stands for as text; empty for a field that the record does not write. */
    private Optional<String> text(String name) {
        if (name.startsWith(Placeholders.ONE_SETTING)) {
            return Optional.of(setting.apply(name.substring(Placeholders.ONE_SETTING.length())));
        }
        return switch (name) {
            case "object" -> Optional.of(batch.object().name());
            case "key_field" -> Optional.of(batch.keyField());
            case "once" -> Optional.of(batch.onceKey());
            case "id" -> Optional.of(one().id());
            case "key" -> Optional.of(one().key().display());
            default -> field(one(), name).map(Value::display);
        };
    }

    private static Optional<Value> field(Outgoing record, String name) {
        return name.startsWith(Placeholders.ONE_FIELD)
                ? record.contents().value(name.substring(Placeholders.ONE_FIELD.length()))
                : Optional.empty();
    }

    /** What names in the body stand for. */
    private final class OfTheCall implements Template.Names {
        @Override
        public boolean knows(String name) {
            return inText(name) || name.equals("record") || name.equals("records") || name.equals("fields");
        }

        @Override
        public boolean has(String name) {
            return !name.startsWith(Placeholders.ONE_FIELD)
                    || field(one(), name).isPresent();
        }

        @Override
        public void write(String name, JsonGenerator out) {
            switch (name) {
                case "records" -> {
                    out.writeStartArray();
                    batch.records().forEach(record -> record(record, out));
                    out.writeEndArray();
                }
                case "record" -> record(one(), out);
                case "object", "key_field", "once" -> out.writeString(required(name));
                default -> {
                    if (name.startsWith(Placeholders.ONE_SETTING)) {
                        out.writeString(required(name));
                    } else {
                        new OfARecord(one()).write(name, out);
                    }
                }
            }
        }

        @Override
        public String text(String name) {
            return required(name);
        }

        private void record(Outgoing record, JsonGenerator out) {
            Template.write(how.record().orElseThrow(), new OfARecord(record), out);
        }
    }

    /** What names in one of the records stand for. */
    private final class OfARecord implements Template.Names {
        private final Outgoing record;

        OfARecord(Outgoing record) {
            this.record = record;
        }

        @Override
        public boolean knows(String name) {
            return OF_A_RECORD.contains(name)
                    || name.startsWith(Placeholders.ONE_FIELD)
                    || name.startsWith(Placeholders.ONE_SETTING);
        }

        @Override
        public boolean has(String name) {
            return !name.startsWith(Placeholders.ONE_FIELD)
                    || field(record, name).isPresent();
        }

        @Override
        public void write(String name, JsonGenerator out) {
            switch (name) {
                case "id" -> out.writeString(record.id());
                case "key" -> Template.write(record.key(), out);
                case "fields" ->
                    record.contents().json().ifPresentOrElse(out::writeRawValue, () -> fields(record.fields(), out));
                default -> {
                    if (name.startsWith(Placeholders.ONE_SETTING)) {
                        out.writeString(required(name));
                    } else {
                        Template.write(field(record, name).orElseThrow(() -> NoValue.of(name)), out);
                    }
                }
            }
        }

        @Override
        public String text(String name) {
            return switch (name) {
                case "id" -> record.id();
                case "key" -> record.key().display();
                default ->
                    name.startsWith(Placeholders.ONE_FIELD)
                            ? field(record, name)
                                    .orElseThrow(() -> NoValue.of(name))
                                    .display()
                            : required(name);
            };
        }
    }

    private static void fields(Map<String, Value> fields, JsonGenerator out) {
        out.writeStartObject();
        fields.forEach((field, value) -> {
            out.writeName(field);
            Template.write(value, out);
        });
        out.writeEndObject();
    }
}

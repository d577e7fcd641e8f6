package remitto.connect.call;

import static org.assertj.core.api.Assertions.assertThat;

import io.cloudevents.CloudEvent;
import io.cloudevents.core.builder.CloudEventBuilder;
import io.cloudevents.core.message.MessageWriter;
import io.cloudevents.http.HttpMessageFactory;
import io.cloudevents.jackson.JsonFormat;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.OffsetDateTime;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.receiver.CallHeaders;

class CallBodyTest {
    private static final CallHeaders JSON = new CallHeaders(Map.of("Content-Type", "application/json"));
    private static final String TYPE = "@header.content-type";

    private static CallBody.Read read(String body, String at) {
        return CallBody.read(JSON, body.getBytes(StandardCharsets.UTF_8), at);
    }

    private static List<CallRecord> records(CallBody.Read read) {
        assertThat(read).isInstanceOf(CallBody.Read.Records.class);
        return ((CallBody.Read.Records) read).records();
    }

    /** Values of the body alone, record by record. */
    private static List<Map<String, String>> values(CallBody.Read read) {
        return records(read).stream()
                .map(record -> {
                    Map<String, String> values = new HashMap<>(record.values());
                    values.keySet().removeIf(name -> name.startsWith("@header."));
                    return values;
                })
                .toList();
    }

    private static String problem(CallBody.Read read) {
        assertThat(read).isInstanceOf(CallBody.Read.Unreadable.class);
        return ((CallBody.Read.Unreadable) read).problem();
    }

    @Test
    void aBodyIsARecordOrAListOfThem() {
        assertThat(values(read("{\"a\":{\"b\":1},\"c\":null,\"d\":[1]}", "")))
                .containsExactly(Map.of("a.b", "1", "d", "[1]"));
        assertThat(values(read("[{\"a\":1},{\"a\":2}]", ""))).containsExactly(Map.of("a", "1"), Map.of("a", "2"));
        assertThat(values(read("\uFEFF{\"x\":{\"list\":[{\"a\":true}]}}", " x.list ")))
                .containsExactly(Map.of("a", "true"));
        assertThat(values(read("{\"x\":{\"a\":1}}", "x"))).containsExactly(Map.of("a", "1"));
        assertThat(values(read("[]", ""))).isEmpty();
        assertThat(records(read("{}", "")).get(0).values()).containsEntry(TYPE, "application/json");
    }

    @Test
    void aListMayHoldWhatIsNoRecord() {
        assertThat(records(read("[{\"a\":1},2]", "")))
                .extracting(CallRecord::number, CallRecord::problem)
                .containsExactly(
                        org.assertj.core.groups.Tuple.tuple(1, ""),
                        org.assertj.core.groups.Tuple.tuple(2, "is no object"));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '!',
            value = {
                "' '            !      ! The body is empty.",
                "17             !      ! The body is neither an object nor a list of objects.",
                "{\"a\":1}      ! a    ! What is at a is neither an object nor a list of objects.",
                "{\"a\":1}      ! a.b  ! The body has nothing at a.b.",
                "{\"a\":1} {}   !      ! The body is not JSON: something follows the value.",
                "{\"a\":1,\"a\":2} !   ! The body is not JSON: Duplicate Object property \"a\"."
            })
    void whatIsNoRecordIsSaid(String body, String at, String expected) {
        assertThat(problem(read(body, at == null ? "" : at))).isEqualTo(expected);
    }

    @Test
    void aBodyIsBoundedInDepthAndInRecords() {
        assertThat(records(read("{\"a\":".repeat(64) + "1" + "}".repeat(64), "")))
                .hasSize(1);
        assertThat(problem(read("{\"a\":".repeat(65) + "1" + "}".repeat(65), "")))
                .contains("64");
        String many = "[" + "{},".repeat(10_000) + "{}]";
        assertThat(problem(read(many, ""))).isEqualTo("The body holds more than 10,000 records.");
        assertThat(problem(CallBody.read(JSON, new byte[] {'{', (byte) 0xff, '}'}, "")))
                .isEqualTo("The body is not in UTF-8.");
    }

    /** WHATWG URL, section 5.1: a plus is a space, and a name may be there twice. */
    @Test
    void fieldsOfAFormAreARecord() {
        CallHeaders form = new CallHeaders(Map.of("Content-Type", "application/x-www-form-urlencoded;charset=UTF-8"));
        assertThat(values(CallBody.read(
                        form, "name=Liv+B%C3%B8&tag=a&tag=b&empty=&bare".getBytes(StandardCharsets.UTF_8), "")))
                .containsExactly(Map.of("name", "Liv Bø", "tag", "a,b", "empty", "", "bare", ""));
        assertThat(problem(CallBody.read(form, "a=%zz".getBytes(StandardCharsets.UTF_8), "")))
                .contains("\"a=%zz\" is not percent-encoded");
    }

    private static CloudEvent event(String id, String json) {
        return CloudEventBuilder.v1()
                .withId(id)
                .withSource(URI.create("/quay/vik"))
                .withType("seat.booked")
                .withTime(OffsetDateTime.parse("2026-12-01T08:00:00Z"))
                .withSubject("Euro € 😀 + 100%")
                .withExtension("line", "T-1")
                .withDataContentType("application/json")
                .withData(json.getBytes(StandardCharsets.UTF_8))
                .build();
    }

    /** An event as another library writes it: its attributes in headers, or all of it in the body. */
    private static CallBody.Read written(CloudEvent event, boolean structured) {
        Map<String, String> headers = new HashMap<>();
        AtomicReference<byte[]> body = new AtomicReference<>(new byte[0]);
        MessageWriter<?, ?> writer = HttpMessageFactory.createWriter(headers::put, body::set);
        if (structured) {
            writer.writeStructured(event, new JsonFormat());
        } else {
            writer.writeBinary(event);
        }
        return CallBody.read(new CallHeaders(headers), body.get(), "");
    }

    /** Against the specification's own library for Java. */
    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void cloudEventsOfAnotherLibraryAreReadInBothModes(boolean structured) {
        CallBody.Read read = written(event("e 1", "{\"seat\":{\"no\":\"4A\"},\"price\":12.50}"), structured);
        Map<String, String> values = values(read).get(0);
        assertThat(values)
                .containsEntry("specversion", "1.0")
                .containsEntry("id", "e 1")
                .containsEntry("source", "/quay/vik")
                .containsEntry("type", "seat.booked")
                .containsEntry("subject", "Euro € 😀 + 100%")
                .containsEntry("line", "T-1")
                .containsEntry("time", "2026-12-01T08:00:00Z")
                .containsEntry("data.seat.no", "4A")
                .containsEntry("data.price", "12.50");
        assertThat(records(read).get(0).event()).isEqualTo("/quay/vik e 1");
    }

    /** JSON event format, section 4: several events are an array of type application/cloudevents-batch+json. */
    @Test
    void severalCloudEventsAreSeveralRecords() {
        JsonFormat format = new JsonFormat();
        String batch = "[" + new String(format.serialize(event("1", "{\"a\":1}")), StandardCharsets.UTF_8) + ","
                + new String(format.serialize(event("2", "{\"a\":2}")), StandardCharsets.UTF_8) + "]";
        CallHeaders headers =
                new CallHeaders(Map.of("Content-Type", "application/cloudevents-batch+json; charset=utf-8"));
        assertThat(records(CallBody.read(headers, batch.getBytes(StandardCharsets.UTF_8), "")))
                .extracting(CallRecord::event)
                .containsExactly("/quay/vik 1", "/quay/vik 2");
    }

    /** Standard Webhooks: the id of a message stays the same when it is sent again. */
    @Test
    void messagesOfStandardWebhooksAreToldApartByTheirId() {
        CallHeaders headers = new CallHeaders(Map.of("webhook-id", "msg_1"));
        assertThat(records(CallBody.read(headers, "[{},{}]".getBytes(StandardCharsets.UTF_8), "")))
                .extracting(CallRecord::event)
                .containsExactly("msg_1 1", "msg_1 2");
        assertThat(records(read("{}", "")).get(0).event()).isEmpty();
    }

    @Test
    void recordsThatAreGoneAreTakenOutAndTheOthersStay() {
        byte[] body =
                "{\"n\":1.50,\"list\":[{\"m\":\"a\"},{\"m\":\"b\"},{\"m\":\"c\"}]}".getBytes(StandardCharsets.UTF_8);
        CallBody.Less less =
                CallBody.without(JSON, body, "list", values -> List.of("a", "c").contains(values.get("m")));
        assertThat(new String(((CallBody.Less.Others) less).body(), StandardCharsets.UTF_8))
                .isEqualTo("{\"n\":1.50,\"list\":[{\"m\":\"b\"}]}");
        assertThat(CallBody.without(JSON, body, "list", values -> true)).isEqualTo(new CallBody.Less.Nothing());
        assertThat(CallBody.without(JSON, body, "list", values -> false)).isEqualTo(new CallBody.Less.Same());
        assertThat(CallBody.without(JSON, "{".getBytes(StandardCharsets.UTF_8), "", values -> true))
                .isEqualTo(new CallBody.Less.NoRecords());
    }
}

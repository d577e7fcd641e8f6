package remitto.connect.profile;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.connect.destination.Destination.Batch;
import remitto.connect.destination.Destination.CallOutcome;
import remitto.connect.destination.Destination.Outgoing;
import remitto.connect.destination.Destination.RecordResult;
import remitto.connect.destination.Destination.RemoteRecord;
import remitto.connect.destination.RateLimit;
import remitto.connect.profile.ProfileReader.ProfileFault;
import remitto.connect.profile.ToolServer.Asked;
import remitto.connect.profile.ToolServer.Told;
import remitto.connect.signin.Login;
import remitto.core.delivery.Backoff;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;

/** Tools whose calls are about one record, named in the address, the query, a header, a form or a text. */
class OneRecordCallsTest {
    private static final String PROFILE = """
            profile: cleat-desk
            title: Cleat Desk
            confirm: readback
            connection:
              - {name: base_address, label: Address}
              - {name: desk, label: Desk}
              - {name: token, label: Token, secret: true}
            authentication: {kind: bearer, key: token}
            limits: {calls: 600, period_seconds: 60, concurrency: 1, records_per_call: 50, bytes_per_call: 100000, longest_call_seconds: 5}
            problem_message: /why
            objects:
              fixed: [{name: guest, title: Guest, people: true}]
            fields:
              fixed:
                - {name: email, title: E-mail, kind: EMAIL, unique: true}
                - {name: given name, title: Given name, kind: TEXT}
                - {name: region, title: Region, kind: TEXT}
            find:
              method: GET
              path: "/desks/{setting.desk}/{object}?{by}={value}"
              items: /guest
              id: /id
              fields: /fields
            add:
              method: POST
              path: "/{object}/{key}"
              form: form
              body: "{fields}"
            update:
              method: PUT
              path: "/{object}?id={id}&region={fields.region}"
              headers: {If-Match: "v-{id}", X-Desk: "{setting.desk}"}
              body: {id: "{id}", greeting: "Dear {key}", region: "{fields.region}", email: "{fields.email}", 7: [1, "{fields.email}"]}
            remove:
              method: DELETE
              path: "/{object}/{id}"
            results: {items: "", id: /id, refused_status: [404, 409, 422], moved_on_status: [404, 409]}
            record_page: "{setting.base_address}/app/{setting.desk}/{object}/{id}"
            """;

    private static final ObjectDescription GUEST = ObjectDescription.of(
            "guest",
            "Guest",
            true,
            List.of(
                    field("email", FieldKind.EMAIL),
                    field("given name", FieldKind.TEXT),
                    field("region", FieldKind.TEXT)));

    private final ToolServer server = new ToolServer();

    @AfterEach
    void stop() {
        server.close();
    }

    private static Field field(String name, FieldKind kind) {
        return new Field(name, name, kind, false, false, false, true, false, OptionalInt.empty(), List.of());
    }

    private Profile profile() {
        return new ProfileReader().read(PROFILE);
    }

    private ProfileDestination destination() {
        return new ProfileDestination(
                profile(),
                Login.with(Map.of("base_address", server.address(), "desk", "north", "token", "hush")),
                TestTools.with(Clock.systemUTC()),
                RateLimit.NONE,
                new Backoff(Duration.ofMillis(1), Duration.ofMillis(2), 2));
    }

    private static Batch batch(String id, Map<String, Value> fields) {
        return new Batch(GUEST, "email", List.of(new Outgoing(id, Value.text("åse+1@cleat.example"), fields)), "7-1");
    }

    private Asked only() {
        assertThat(server.asked()).hasSize(1);
        return server.asked().get(0);
    }

    private static RecordResult result(CallOutcome outcome) {
        return ((CallOutcome.Answered) outcome).results().get(0);
    }

    @Test
    void suchCallsTakeOneRecordAndOthersAsManyAsTheLimitSays() {
        assertThat(profile().recordsPerCall(Verdict.ADDED)).isOne();
        assertThat(profile().recordsPerCall(Verdict.CHANGED)).isOne();
        assertThat(profile().recordsPerCall(Verdict.REMOVED)).isOne();
        Profile many = new ProfileReader().read(ProfileReader.resource("purser-crm.yaml"));
        assertThat(many.recordsPerCall(Verdict.ADDED)).isEqualTo(250);
        assertThat(many.recordsPerCall(Verdict.REMOVED)).isEqualTo(250);
    }

    @Test
    void aFormHoldsTheFieldsAndTheKeyStandsInTheAddress() {
        server.on("/guest/åse+1@cleat.example", asked -> Told.json("{\"id\":\"g-1\"}"));
        RecordResult added = result(
                destination().add(batch("", Map.of("given name", Value.text("Åse & Øy"), "region", Value.EMPTY))));
        assertThat(added.accepted()).isTrue();
        assertThat(added.id()).isEqualTo("g-1");
        assertThat(only().target()).isEqualTo("/guest/%C3%A5se%2B1%40cleat.example");
        assertThat(only().header("Content-Type")).isEqualTo("application/x-www-form-urlencoded");
        assertThat(only().body().split("&")).containsExactlyInAnyOrder("given+name=%C3%85se+%26+%C3%98y", "region=");
    }

    @Test
    void addressHeadersAndBodyNameTheRecordAndWhatIsNotWrittenIsLeftOut() {
        server.on("/guest", asked -> Told.json("{}"));
        RecordResult changed = result(destination().update(batch("g 1", Map.of("region", Value.text("North")))));
        assertThat(changed.accepted()).isTrue();
        assertThat(changed.id()).isEqualTo("g 1");
        assertThat(only().target()).isEqualTo("/guest?id=g%201&region=North");
        assertThat(only().header("If-Match")).isEqualTo("v-g 1");
        assertThat(only().header("X-Desk")).isEqualTo("north");
        assertThat(only().body())
                .isEqualTo("{\"id\":\"g 1\",\"greeting\":\"Dear åse+1@cleat.example\",\"region\":\"North\",\"7\":[1]}");
    }

    @Test
    void anAddressThatNeedsAValueWhichIsNotWrittenRefusesTheRecordWithoutACall() {
        RecordResult refused =
                result(destination().update(batch("g1", Map.of("email", Value.text("b@cleat.example")))));
        assertThat(refused.accepted()).isFalse();
        assertThat(refused.reason()).isEqualTo("the call needs region, which this record does not write");
        assertThat(server.asked()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"404, true", "409, true", "422, false"})
    void anAnswerAboutOneRecordRefusesThatRecordOnly(int status, boolean movedOn) {
        server.on("/guest/g1", asked -> new Told(status, Map.of(), "{\"why\":\"no such guest\"}"));
        RecordResult refused = result(destination().remove(batch("g1", Map.of())));
        assertThat(refused.accepted()).isFalse();
        assertThat(refused.movedOn()).isEqualTo(movedOn);
        assertThat(refused.reason()).isEqualTo("no such guest");
        assertThat(only().method()).isEqualTo("DELETE");
        assertThat(only().body()).isEmpty();
    }

    @Test
    void anyOtherRefusalIsOfTheWholeCall() {
        server.on("/guest/g1", asked -> Told.refused(403));
        assertThat(destination().remove(batch("g1", Map.of())))
                .isInstanceOfSatisfying(CallOutcome.Failed.class, failed -> assertThat(failed.status())
                        .isEqualTo(403));
    }

    @Test
    void recordsAreLookedUpOneByOneAndOneThatIsNotThereIsNone() {
        server.on(
                "/desks/north/guest",
                asked -> asked.target().endsWith("=a%40cleat.example")
                        ? Told.json("{\"guest\":{\"id\":\"g1\",\"fields\":{\"email\":\"a@cleat.example\"}}}")
                        : Told.refused(404));
        List<RemoteRecord> found = destination()
                .find(GUEST, "email", List.of(Value.text("a@cleat.example"), Value.text("b@cleat.example")));
        assertThat(found).extracting(RemoteRecord::id).containsExactly("g1");
        assertThat(server.asked()).extracting(Asked::method).containsExactly("GET", "GET");
        assertThat(server.asked()).extracting(Asked::body).containsOnly("");
    }

    @Test
    void theToolsOwnPageOfARecordIsATemplate() {
        assertThat(destination().recordPage()).contains(server.address() + "/app/north/{object}/{id}");
    }

    private static List<ProfileReader.TextFault> faults(String text) {
        try {
            new ProfileReader().read(text);
            return List.of();
        } catch (ProfileFault fault) {
            return fault.faults();
        }
    }

    private static int lineOf(String text, String part) {
        List<String> lines = text.lines().toList();
        return lines.indexOf(lines.stream()
                        .filter(line -> line.contains(part))
                        .findFirst()
                        .orElseThrow())
                + 1;
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            /{object}/{key}"               | /{object}/{email}"              | {email} stands for nothing here
            v-{id}                         | v-{version}                     | {version} stands for nothing here
            Dear {key}                     | Dear {name}                     | {name} stands for nothing here
            ?{by}={value}                  | ?{by}={key}                     | {key} stands for nothing here
            /app/{setting.desk}            | /app/{setting.house}            | the connection has no setting house
            X-Desk: "{setting.desk}"       | X-Desk: "{setting.shelf}"       | the connection has no setting shelf
            /{setting.desk}/{object}/{id}" | /{setting.token}/{object}/{id}" | token is secret
            body: "{fields}"               | body: {a: {b: 1}}               | names with one value each
            body: "{fields}"               | body: {a: "{record}"}           | Say under record what a record looks like
            body: {id: "{id}"              | body: {of: "{records}"          | about one record or about many
            """)
    void whatStandsForNothingIsAFaultAtItsLineBeforeAnythingIsWritten(String right, String wrong, String message) {
        assertThat(PROFILE).contains(right);
        String text = PROFILE.replace(right, wrong);
        assertThat(faults(text)).anySatisfy(fault -> {
            assertThat(fault.message()).contains(message);
            assertThat(fault.line()).isIn(lineOf(text, wrong), lineOf(text, "update:"));
        });
    }

    @Test
    void everyProfileThatShipsNamesOnlyWhatIsThere() {
        for (String name : List.of(
                "example",
                "purser-crm",
                "lamplight-ads",
                "postbag-mail",
                "gangway-support",
                "webhook",
                "foghorn-chat",
                "database-table",
                "file-drop",
                "file-folder")) {
            assertThat(faults(ProfileReader.resource(name + ".yaml"))).as(name).isEmpty();
        }
    }

    @Test
    void aCallOfManyRecordsSaysWhichOfThemWereTaken() {
        String purser = ProfileReader.resource("purser-crm.yaml")
                .replace("  outcome: /outcome\n", "")
                .replace("  accepted: [added, written, same, removed]\n", "")
                .replace("  moved_on: [present, absent]\n", "");
        assertThat(faults(purser)).anySatisfy(fault -> {
            assertThat(fault.message()).contains("which of them were taken");
            assertThat(fault.line()).isEqualTo(lineOf(purser, "results:"));
        });
    }

    @Test
    void aTextIsOneText() {
        String text = PROFILE.replace(
                "form: form\n  body: \"{fields}\"", "form: text\n  body: \"Room for {key}: {fields.region}\"");
        server.on("/guest/åse+1@cleat.example", asked -> Told.json("{}"));
        ProfileDestination cleat = new ProfileDestination(
                new ProfileReader().read(text),
                Login.with(Map.of("base_address", server.address(), "desk", "d", "token", "hush")),
                TestTools.with(Clock.systemUTC()),
                RateLimit.NONE,
                new Backoff(Duration.ofMillis(1), Duration.ofMillis(2), 2));
        cleat.add(batch("", Map.of("region", Value.text("$1 North"))));
        assertThat(only().body()).isEqualTo("Room for åse+1@cleat.example: $1 North");
        assertThat(only().header("Content-Type")).isEqualTo("text/plain; charset=utf-8");
    }

    private ProfileDestination saved(String text) {
        return new ProfileDestination(
                new ProfileReader().readSaved(text),
                Login.with(Map.of("base_address", server.address(), "desk", "north", "token", "hush")),
                TestTools.with(Clock.systemUTC()),
                RateLimit.NONE,
                new Backoff(Duration.ofMillis(1), Duration.ofMillis(2), 2));
    }

    @Test
    void aTextThatWasSavedBeforeNamesWereCheckedIsReadAndSentAsEver() {
        String before = PROFILE.replace("Dear {key}", "Dear {friend}")
                .replace("id: \"{id}\", greeting", "id: \"{someone}\", greeting")
                .replace("&region={fields.region}", "");
        assertThat(faults(before)).isNotEmpty();
        server.on("/guest", asked -> Told.json("{}"));
        assertThat(result(saved(before).update(batch("g1", Map.of("region", Value.text("North")))))
                        .accepted())
                .isTrue();
        assertThat(only().body()).contains("\"id\":\"{someone}\"", "\"greeting\":\"Dear {friend}\"");
    }

    @Test
    void aHeaderThatCannotHoldAValueRefusesTheRecordAndNoMore() {
        String text = PROFILE.replace("If-Match: \"v-{id}\"", "X-Region: \"{fields.region}\"");
        RecordResult refused = result(saved(text).update(batch("g1", Map.of("region", Value.text("Ytre Øy")))));
        assertThat(refused.accepted()).isFalse();
        assertThat(refused.reason()).startsWith("the header X-Region cannot hold");
        assertThat(server.asked()).isEmpty();
    }

    @Test
    void theWordThatMeansTakenIsNamedWithItsPlace() {
        String purser =
                ProfileReader.resource("purser-crm.yaml").replace("  accepted: [added, written, same, removed]\n", "");
        assertThat(faults(purser).toString()).contains("name outcome and accepted together");
        assertThat(new ProfileReader().readSaved(purser).title()).isEqualTo("Purser CRM");
    }
}

package remitto.standins.postbag;

import static org.assertj.core.api.Assertions.assertThat;
import static remitto.standins.StandInClient.json;

import java.net.http.HttpResponse;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import remitto.standins.StandInClient;
import tools.jackson.databind.JsonNode;

class PostbagTest {
    @TempDir
    private Path folder;

    private Postbag postbag;
    private StandInClient client;

    @BeforeEach
    void start() {
        postbag = Postbag.start(0, folder.resolve("postbag.jsonl"));
        client = new StandInClient(postbag.port());
    }

    @AfterEach
    void stop() {
        postbag.close();
    }

    private HttpResponse<String> call(String method, String path, String body) throws Exception {
        return client.call(method, "/" + Postbag.REGION + path, body, "Postbag-Key", Postbag.KEY);
    }

    private JsonNode told(String path, String entries) throws Exception {
        return json(call("POST", path, "{\"entries\":[" + entries + "]}")).get("receipts");
    }

    private static String person(String mail, String more) {
        return "{\"traits\":{\"mail\":\"" + mail + "\"" + more + "}}";
    }

    @Test
    void itsKeyIsGoodInOneRegionOnly() throws Exception {
        assertThat(call("GET", "/whose", "").statusCode()).isEqualTo(200);
        assertThat(client.call("GET", "/south/whose", "", "Postbag-Key", Postbag.KEY)
                        .statusCode())
                .isEqualTo(421);
        assertThat(client.call("GET", "/north/whose", "", "Postbag-Key", "guess")
                        .statusCode())
                .isEqualTo(401);
        assertThat(client.call("GET", "/north/whose", "").statusCode()).isEqualTo(401);
    }

    @Test
    void everyEntryHasAReceiptOfItsOwn() throws Exception {
        JsonNode told = told(
                "/person/add",
                String.join(
                        ",",
                        person("ase@sol.example", ",\"given\":\"Åse\""),
                        person("ASE@sol.example", ""),
                        person("no address", ""),
                        person("liv@sol.example", ",\"shoe\":41,\"days_since_crossing\":\"few\""),
                        "{\"traits\":{\"given\":\"Nobody\"}}"));
        assertThat(told.valueStream().map(one -> one.get("receipt").asString()))
                .containsExactly("in", "known already", "returned", "returned", "returned");
        assertThat(told.valueStream().map(one -> one.get("place").asInt())).containsExactly(0, 1, 2, 3, 4);
        assertThat(told.at("/0/id").asString()).isEqualTo("501");
        assertThat(told.at("/2/because/0/of").asString()).isEqualTo("this is no mail address");
        assertThat(told.at("/3/because").valueStream().map(one -> one.get("of").asString()))
                .containsExactly("there is no trait shoe", "Days since last crossing holds amount");
        assertThat(told.at("/4/because/0/of").asString()).isEqualTo("everybody has a mail address");
    }

    @Test
    void aChangeTouchesWhatItNamesAndNoAddressServesTwice() throws Exception {
        told("/person/add", person("ase@sol.example", ",\"given\":\"Åse\"") + "," + person("liv@sol.example", ""));
        JsonNode told = told(
                "/person/change",
                "{\"id\":\"501\",\"traits\":{\"family\":\"Øy\",\"given\":null}},"
                        + "{\"id\":\"502\",\"traits\":{\"mail\":\"ase@sol.example\"}},"
                        + "{\"id\":\"900\",\"traits\":{\"family\":\"Who\"}}");
        assertThat(told.valueStream().map(one -> one.get("receipt").asString()))
                .containsExactly("in", "returned", "not known");
        JsonNode found = json(call("POST", "/person/which", "{\"trait\":\"id\",\"is_one_of\":[\"501\",\"502\"]}"));
        assertThat(found.at("/people/0/traits/family").asString()).isEqualTo("Øy");
        assertThat(found.at("/people/0/traits/given").isNull()).isTrue();
        assertThat(found.at("/people/0/traits/standing").asString()).isEqualTo("subscribed");
        assertThat(found.at("/people/1/traits/mail").asString()).isEqualTo("liv@sol.example");
    }

    @Test
    void peopleListsAndWhatWasDroppedAreKeptAcrossARestart() throws Exception {
        told("/person/add", person("ase@sol.example", "") + "," + person("liv@sol.example", ""));
        told("/offers/add", person("ase@sol.example", "") + "," + person("liv@sol.example", ""));
        told("/person/drop", "\"501\"");
        told("/offers/drop", "\"liv@sol.example\"");
        stop();
        start();

        JsonNode people = json(call("GET", "/person/pages/1", "")).get("people");
        assertThat(people.valueStream().map(one -> one.get("id").asString())).containsExactly("502");
        JsonNode offers = json(call("GET", "/offers/pages/1", "")).get("people");
        assertThat(offers.valueStream().map(one -> one.get("id").asString())).containsExactly("ase@sol.example");
        assertThat(told("/person/add", person("new@sol.example", ""))
                        .at("/0/id")
                        .asString())
                .as("a number is never given out twice")
                .isEqualTo("503");
    }

    @Test
    void moreThanACallTakesIsRefusedAsAWhole() throws Exception {
        String many = String.join(",", java.util.Collections.nCopies(201, person("ase@sol.example", "")));
        assertThat(call("POST", "/person/add", "{\"entries\":[" + many + "]}").statusCode())
                .isEqualTo(413);
        assertThat(json(call("GET", "/person/pages/1", "")).get("people")).isEmpty();
        assertThat(call("POST", "/ghosts/add", "{\"entries\":[]}").statusCode()).isEqualTo(404);
        assertThat(call("POST", "/person/add", "not json").statusCode()).isEqualTo(400);
    }

    @Test
    void aPartialFailureRefusesEveryOtherEntryAndTakesTheRest() throws Exception {
        client.call(
                "PUT",
                "/control/faults",
                "[{\"fault\":\"partial\",\"on\":\"add\",\"share\":0,\"next\":1,\"millis\":0}]");
        JsonNode told = told(
                "/person/add",
                person("a@sol.example", "") + "," + person("b@sol.example", "") + "," + person("c@sol.example", ""));
        assertThat(told.valueStream().map(one -> one.get("receipt").asString()))
                .containsExactly("in", "returned", "in");
        assertThat(told("/person/add", person("b@sol.example", ""))
                        .at("/0/receipt")
                        .asString())
                .isEqualTo("in");
    }
}

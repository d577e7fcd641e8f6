package remitto.connect.profile;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.connect.destination.RateLimit;
import remitto.connect.profile.ProfileBench.Call;
import remitto.connect.profile.ProfileBench.Request;
import remitto.connect.profile.ProfileBench.Tried;
import remitto.connect.profile.ToolServer.Told;
import remitto.connect.signin.Login;

/** Single calls of a profile, seen from both ends. */
class ProfileBenchTest {
    private final ToolServer tool = new ToolServer();

    @BeforeEach
    void slots() {
        tool.on(
                "/g/user/slots",
                asked -> Told.json(
                        "{\"slots\":[{\"slot\":\"mail\",\"label\":\"Mail\",\"takes\":\"words\",\"onlyOne\":true},"
                                + "{\"slot\":\"trips\",\"label\":\"Trips\",\"takes\":\"number\"}]}"));
    }

    @AfterEach
    void stop() {
        tool.close();
    }

    private Tried run(Call call, List<String> values, Map<String, String> fields, boolean send) {
        return run(ProfileReader.resource("gangway-support.yaml"), call, values, fields, send);
    }

    private Tried run(String text, Call call, List<String> values, Map<String, String> fields, boolean send) {
        return new ProfileBench(
                        new ProfileReader().read(text),
                        Login.with(Map.of("base_address", tool.address(), "pass", "gang-3301")),
                        Set.of("gang-3301"),
                        TestTools.with(Clock.systemUTC()),
                        RateLimit.NONE)
                .run(new Request(call, "user", "mail", values, Optional.empty(), "", fields, send));
    }

    @Test
    void aCallIsShownWithItsAnswerAndHowItIsRead() {
        Tried tried = run(Call.FIELDS, List.of(), Map.of(), false);
        assertThat(tried.problem()).isEmpty();
        assertThat(tried.reading().sentence()).isEqualTo("2 fields of User");
        assertThat(tried.reading().rows().get(1)).startsWith("trips", "Trips", "decimal");
        assertThat(tried.calls()).singleElement().satisfies(seen -> {
            assertThat(seen.method()).isEqualTo("GET");
            assertThat(seen.status()).isEqualTo(200);
            assertThat(seen.answer()).contains("\"onlyOne\":true");
        });
    }

    @Test
    void secretsAreHiddenWhereverTheyStand() {
        tool.on(
                "/g/desk",
                asked -> Told.json(
                        "{\"desk\":\"pass " + asked.header("Gangway-Pass") + "\",\"access_token\":\"abc123\"}"));
        Tried tried = run(Call.CHECK, List.of(), Map.of(), false);
        assertThat(tool.asked().get(0).header("Gangway-Pass")).isEqualTo("gang-3301");
        assertThat(tried.calls().toString())
                .doesNotContain("gang-3301")
                .doesNotContain("abc123")
                .contains("•••");
    }

    /** Whoever writes the text may say that a setting is no secret, and name it anywhere. */
    @Test
    void theTextOnTheBenchCannotLayASecretOpen() {
        String open = ProfileReader.resource("gangway-support.yaml")
                .replace("label: Pass, secret: true", "label: Pass")
                .replace("path: /g/desk", "path: \"/g/desk?pass={setting.pass}\"");
        assertThat(open).doesNotContain("secret: true");
        tool.on("/g/desk", asked -> Told.json("{\"desk\":\"" + asked.target() + "\"}"));
        Tried tried = run(open, Call.CHECK, List.of(), Map.of(), false);
        assertThat(tool.asked().get(0).target()).contains("gang-3301");
        assertThat(tried.calls().toString()).doesNotContain("gang-3301");
        assertThat(tried.reading().sentence()).doesNotContain("gang-3301");
    }

    @Test
    void aWriteIsShownAndNotMadeUnlessAskedFor() {
        Tried tried = run(Call.ADD, List.of(), Map.of("mail", "a@halvorn.example", "trips", "3"), false);
        assertThat(tried.calls()).last().satisfies(seen -> {
            assertThat(seen.status()).isZero();
            assertThat(seen.body()).contains("\"mail\":\"a@halvorn.example\"").contains("\"trips\":3");
        });
        assertThat(tried.reading().sentence()).contains("not made");
        assertThat(tool.asked()).allMatch(asked -> asked.method().equals("GET"));
    }

    @Test
    void aWriteThatIsMadeTellsWhatCameOfTheRecord() {
        tool.on("/g/user/fresh", asked -> Told.json("{\"told\":[{\"at\":0,\"said\":\"clash\"}]}"));
        Tried tried = run(Call.ADD, List.of(), Map.of("mail", "a@halvorn.example"), true);
        assertThat(tried.reading().rows()).singleElement().satisfies(row -> assertThat(row)
                .containsExactly("", "yes", "", "clash", "clash"));
    }

    @Test
    void aValueThatDoesNotFitIsSaidBeforeAnythingIsSent() {
        Tried tried = run(Call.ADD, List.of(), Map.of("trips", "many"), true);
        assertThat(tried.problem()).contains("trips").contains("many");
        assertThat(tool.asked()).noneMatch(asked -> asked.method().equals("POST"));
    }

    @Test
    void anAnswerThatCannotBeReadIsShownAsItCame() {
        tool.on("/g/user/seek", asked -> new Told(200, Map.of("Content-Type", "text/html"), "<html>Gone</html>"));
        Tried tried = run(Call.FIND, List.of("a@halvorn.example"), Map.of(), false);
        assertThat(tried.problem()).contains("not JSON");
        assertThat(tried.calls()).last().satisfies(seen -> assertThat(seen.answer())
                .contains("Gone"));
    }
}

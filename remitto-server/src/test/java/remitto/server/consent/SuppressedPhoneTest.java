package remitto.server.consent;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** A phone number on the suppression list blocks whose it is: by the person's country, and where none is known, all it could mean. */
class SuppressedPhoneTest {
    /** Given out in Denmark and in Norway alike (numbering plans as libphonenumber 9 has them). */
    private static final String DIGITS = "40123456";

    private TestServer server;
    private TestUser editor;
    private TestRoute shop;

    @BeforeEach
    void aDaneAndANorwegianOfTheSameDigits() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        server.warehouse().run("""
                delete from shop.customers where id > 3;
                update shop.customers set phone = '40123456', country = case id when 1 then 'DK' when 2 then 'NO' else '' end
                """);
        shop = new TestRoute(server, editor);
    }

    @AfterEach
    void stop() {
        server.close();
    }

    private Set<String> sent() {
        long dataset = shop.dataset(
                editor,
                "With phones",
                "select id, town, email, phone, nullif(country, '') as country from shop.customers",
                Map.of(
                        "id", "KEY",
                        "town", "ATTRIBUTE",
                        "email", "ATTRIBUTE",
                        "phone", "IDENTIFIER",
                        "country", "ATTRIBUTE"));
        long route = shop.add(
                editor,
                "Phones",
                dataset,
                TestRoute.spec(Optional.empty())
                        .rules(List.of(
                                FieldRule.of("id", new Receives.FromColumn("id")),
                                FieldRule.of("town", new Receives.FromColumn("town")))));
        shop.run(route);
        return new TreeSet<>(List.of(server.warehouse()
                .text("select coalesce(string_agg(id::text, ' ' order by id), 'nobody') from mail.recipients")
                .split(" ")));
    }

    private JsonNode suppress(String address, Optional<String> country) {
        return editor.post(
                        "/api/consents/suppressions",
                        country.map(code -> Map.of("addresses", address, "country", code, "reason", "asked for it"))
                                .orElse(Map.of("addresses", address, "reason", "asked for it")))
                .ok();
    }

    @Test
    void aDanishNumberBlocksTheDaneAndNotTheNorwegian() {
        assertThat(suppress(DIGITS, Optional.of("DK")).get("ambiguous").asInt()).isZero();
        assertThat(sent()).as("whose country is not known may be the Dane").containsExactly("2");
    }

    @Test
    void anInternationalNumberNeedsNoCountry() {
        suppress("+47 40 12 34 56", Optional.empty());
        assertThat(sent()).containsExactly("1");
    }

    @Test
    void aNumberOfNoKnownCountryBlocksAllThatItCouldMeanAndSaysSo() {
        assertThat(suppress(DIGITS, Optional.empty()).get("ambiguous").asInt()).isEqualTo(1);
        assertThat(sent()).containsExactly("nobody");
    }

    @Test
    void aCountryThatIsNoneIsRefused() {
        assertThat(editor.post(
                                "/api/consents/suppressions",
                                Map.of("addresses", DIGITS, "country", "XX", "reason", "asked for it"))
                        .status())
                .isEqualTo(422);
    }
}

package remitto.connect.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.net.URI;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.connect.outgoing.AddressGuard;
import tools.jackson.databind.json.JsonMapper;

/** Where calls go, and where those that carry secrets may. Origins are those of RFC 6454, section 4. */
class AddressesTest {
    private static final String TEXT = ProfileReader.resource("purser-crm.yaml");
    private static final JsonMapper JSON = JsonMapper.builder().build();

    @ParameterizedTest
    @CsvSource({
        "https://tool.example/a/b, https://tool.example:443",
        "http://tool.example, http://tool.example:80",
        "HTTPS://Tool.Example:443/, https://tool.example:443",
        "https://tool.example:8443/x, https://tool.example:8443",
        "https://tool.example.other.example/, https://tool.example.other.example:443",
    })
    void anOriginIsSchemeHostAndPort(String address, String origin) {
        assertThat(AddressGuard.origin(URI.create(address.replace("HTTPS", "https"))))
                .isEqualTo(origin);
    }

    @Test
    void everyFullAddressInAProfileCounts() {
        Profile profile = new ProfileReader().read(TEXT);
        Map<String, String> settings = Map.of("base_address", "https://eu.purser.example/crm");
        assertThat(Addresses.of(profile, settings, JSON)).containsExactly("https://eu.purser.example:443");
        Profile elsewhere = new ProfileReader()
                .read(TEXT.replaceFirst(
                        "token_path: /oauth/token",
                        "token_path: \"https://{setting.client_id}.sign-in.example/token\""));
        assertThat(Addresses.of(
                        elsewhere,
                        Map.of("base_address", "https://eu.purser.example/crm", "client_id", "halvorn"),
                        JSON))
                .containsExactly("https://eu.purser.example:443", "https://halvorn.sign-in.example:443");
    }

    @Test
    void callsWithSecretsGoNowhereElse() {
        AddressGuard guard = new AddressGuard(List.of("127.0.0.1")).only(Set.of("http://127.0.0.1:8631"));
        guard.check(URI.create("http://127.0.0.1:8631/api"));
        for (String other : List.of("http://127.0.0.1:8632/api", "https://127.0.0.1:8631/api", "http://[::1]:8631/")) {
            assertThatThrownBy(() -> guard.check(URI.create(other)))
                    .as(other)
                    .hasMessageContaining("the secrets were given for http://127.0.0.1:8631");
        }
    }
}

package remitto.connect.outgoing;

import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.net.URI;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Addresses are examples of the IANA special-purpose address registries (RFC 6890, RFC 6598, RFC 2544, RFC 4193, RFC 6052). */
class AddressGuardTest {
    private final AddressGuard guard = new AddressGuard(List.of("10.1.2.3", "127.0.0.1:8631"));

    private void check(String address) {
        guard.check(URI.create(address));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "http://10.0.0.1",
                "http://172.16.5.5",
                "http://192.168.1.1",
                "http://100.64.0.1",
                "http://198.18.0.1",
                "http://198.19.255.255",
                "http://192.0.2.7",
                "http://203.0.113.9",
                "http://0.0.0.0",
                "http://255.255.255.255",
                "http://224.0.0.1",
                "http://169.254.169.254",
                "http://127.0.0.1",
                "http://127.0.0.1:8632",
                "http://127.8.8.8:8631",
                "http://[::1]",
                "http://[::ffff:10.0.0.1]",
                "http://[::ffff:169.254.169.254]",
                "http://[fc00::1]",
                "http://[fd12:3456::1]",
                "http://[fe80::1]",
                "http://[64:ff9b::a00:1]",
                "http://[2002:a00:1::]",
                "http://[2001:db8::1]",
                "postgresql://192.168.1.1:5432/shop",
                "sftp://10.0.0.9"
            })
    void whatIsNotGlobalIsNotCalled(String address) {
        assertThatThrownBy(() -> check(address)).hasMessageContaining("not allowed");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "https://93.184.216.34",
                "https://[2606:2800:220:1::1]",
                "http://10.1.2.3",
                "http://10.1.2.3:9999",
                "http://127.0.0.1:8631/api"
            })
    void whatIsGlobalOrListedIsCalled(String address) {
        assertThatCode(() -> check(address)).doesNotThrowAnyException();
    }

    @ParameterizedTest
    @ValueSource(strings = {"http://169.254.169.254", "http://0.0.0.0", "http://[fe80::1]", "http://[ff02::1]"})
    void whatIsOfThisLinkIsNotCalledThoughListed(String address) {
        AddressGuard listed =
                new AddressGuard(List.of("169.254.169.254", "0.0.0.0", "fe80::1", "fe80:0:0:0:0:0:0:1", "ff02::1"));
        assertThatThrownBy(() -> listed.check(URI.create(address))).hasMessageContaining("not allowed");
    }
}

package remitto.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class TracesAddressTest {
    @ParameterizedTest
    @ValueSource(strings = {"", " ", "collector", "ftp://collector.example", "http://not an address"})
    void whatIsNoAddressTracesNothingAndStopsNothing(String url) {
        Traces traces = new Traces(url, 100);
        Runnable work = () -> {};

        assertThat(traces.isOn()).isFalse();
        assertThat(traces.around("work", java.util.Map.of(), work)).isSameAs(work);
        traces.close();
    }

    @Test
    void anAddressIsTraced() {
        Traces traces = new Traces("http://127.0.0.1:1/v1/traces", 0);
        assertThat(traces.isOn()).isTrue();
        traces.close();
    }
}

package remitto.connect.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;
import remitto.connect.profile.ProfileReader.ProfileFault;

class ProfileReaderTest {
    private final ProfileReader reader = new ProfileReader();
    private final String purser = ProfileReader.resource("purser-crm.yaml");

    @Test
    void theProfileThatShipsIsSound() {
        Profile profile = reader.read(purser);
        assertThat(profile.profile()).isEqualTo("purser-crm");
        assertThat(profile.confirm()).isEqualTo(Profile.Confirm.READBACK);
        assertThat(profile.limits().recordsPerCall()).isEqualTo(250);
        assertThat(profile.connection()).filteredOn(Profile.Setting::isSecret).hasSize(1);
        assertThat(profile.retriable(500)).isTrue();
        assertThat(profile.retriable(400)).isFalse();
    }

    @Test
    void everyFaultOfAProfileIsSaidAtOnce() {
        String broken =
                purser.replace("confirm: readback", "confirm: perhaps").replace("  calls: 120", "  calls: none");
        assertThatThrownBy(() -> reader.read(broken))
                .isInstanceOf(ProfileFault.class)
                .satisfies(
                        thrown -> assertThat(((ProfileFault) thrown).faults()).hasSize(2))
                .hasMessageContaining("/confirm")
                .hasMessageContaining("/limits/calls");
    }

    @Test
    void whatIsNotYamlIsAFaultToo() {
        assertThatThrownBy(() -> reader.read("profile: [unclosed")).isInstanceOf(ProfileFault.class);
        assertThatThrownBy(() -> reader.read("just words")).isInstanceOf(ProfileFault.class);
    }
}

package remitto.connect.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
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

    private List<ProfileReader.TextFault> faults(String text) {
        try {
            reader.read(text);
            return List.of();
        } catch (ProfileFault fault) {
            return fault.faults();
        }
    }

    private int lineOf(String text, String start) {
        return text.lines()
                        .toList()
                        .indexOf(text.lines()
                                .filter(line -> line.strip().startsWith(start))
                                .findFirst()
                                .orElseThrow())
                + 1;
    }

    @Test
    void aFaultNamesItsLine() {
        String broken = purser.replace("  period_seconds: 12", "  period_seconds: soon")
                .replace("problem_message: /problem", "problem_massage: /problem");
        assertThat(faults(broken))
                .extracting(ProfileReader.TextFault::line)
                .containsExactlyInAnyOrder(lineOf(broken, "period_seconds"), lineOf(broken, "problem_massage"));
        assertThat(faults("profile: x\ntitle: [a, b\nconfirm: key\n"))
                .singleElement()
                .satisfies(fault -> assertThat(fault.line()).isBetween(2, 3));
        String unfinished = purser + "\n  pag\n";
        assertThat(faults(unfinished)).singleElement().satisfies(fault -> {
            assertThat(fault.line()).isEqualTo(lineOf(unfinished, "pag"));
            assertThat(fault.message()).contains("could not find expected ':'");
        });
        assertThat(faults(purser.replace("connection:\n", "connection:\n  - {name: other}\n")))
                .singleElement()
                .satisfies(fault -> assertThat(fault.line()).isEqualTo(lineOf(purser, "connection:") + 1));
    }

    @Test
    void aSettingThatIsNeverAskedForIsAFault() {
        String wrong = purser.replace("  path: /api/v1/whoami\n", "  path: \"/api/{setting.region}/whoami\"\n");
        assertThat(faults(wrong)).singleElement().satisfies(fault -> {
            assertThat(fault.message()).contains("region");
            assertThat(fault.line()).isEqualTo(lineOf(wrong, "path: \"/api/{setting.region}"));
        });
    }

    @Test
    void everyProfileThatShipsAndTheExampleAreSound() {
        List.of("purser-crm", "lamplight-ads", "foghorn-chat", "gangway-support", "webhook", "example")
                .forEach(name -> assertThat(reader.read(ProfileReader.resource(name + ".yaml"))
                                .title())
                        .isNotBlank());
    }

    @Test
    void whatIsNotYamlIsAFaultToo() {
        assertThatThrownBy(() -> reader.read("profile: [unclosed")).isInstanceOf(ProfileFault.class);
        assertThatThrownBy(() -> reader.read("just words")).isInstanceOf(ProfileFault.class);
    }

    private static String wrong(int lines) {
        return java.util.stream.IntStream.range(0, lines)
                .mapToObj(i -> "wrong_" + i + ": {setting.gone}\n")
                .collect(java.util.stream.Collectors.joining());
    }

    /** A text of 100,000 faults is one fault: that it is too long. Nothing of it is looked at further. */
    @Test
    void whatIsLongerThanAnyProfileIsNotLookedAt() {
        assertThat(faults(wrong(100_000))).singleElement().satisfies(fault -> {
            assertThat(fault.message()).contains("at most 5000 lines");
            assertThat(fault.line()).isEqualTo(1);
        });
        assertThat(faults("# " + "x".repeat(500_000))).singleElement().satisfies(fault -> assertThat(fault.message())
                .contains("500000 characters"));
        assertThat(faults(purser + "\n# a comment".repeat(4_500))).isEmpty();
    }

    @Test
    void aHundredFaultsAreSaidAtMost() {
        String text = purser + wrong(3_000);
        List<ProfileReader.TextFault> faults = faults(text);
        assertThat(faults).hasSizeBetween(2, 100);
        assertThat(faults).allSatisfy(fault -> assertThat(fault.line()).isPositive());
    }
}

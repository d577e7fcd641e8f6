package remitto.standins.postbag;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class LetterTest {
    private static final JsonNode PERSON = JsonMapper.builder().build().readTree("""
            {"given": "Åse", "family": "", "price": 12.5, "odd": "$1 \\\\ <<given>>",
             "bookings": [{"line": "Tarva", "on": "2026-11-21"}, {"line": "Brenn"}]}
            """);

    @Test
    void traitsStandWhereTheyAreNamed() {
        assertThat(Letter.read("Dear << given >>, it is <<price>>.", PERSON)).isEqualTo("Dear Åse, it is 12.5.");
    }

    @Test
    void whatIsMissingOrBlankGivesWayToWhatIsWrittenBehindElse() {
        assertThat(Letter.read("Dear <<family, else traveller>>", PERSON)).isEqualTo("Dear traveller");
        assertThat(Letter.read("Dear <<nick, else good friend >>!", PERSON)).isEqualTo("Dear good friend!");
        assertThat(Letter.read("Dear <<nick>>!", PERSON)).isEqualTo("Dear !");
    }

    @Test
    void aValueIsNeverReadAsALetterItself() {
        assertThat(Letter.read("<<odd>>", PERSON)).isEqualTo("$1 \\ <<given>>");
    }

    @Test
    void whatStandsBetweenEachAndEndComesOnceForEveryRow() {
        assertThat(Letter.read("Yours:\n<<each bookings>>\n- <<line>>, <<on, else any day>>\n<<end>>\nBye", PERSON))
                .isEqualTo("Yours:\n- Tarva, 2026-11-21\n- Brenn, any day\nBye");
        assertThat(Letter.read("None: <<each crossings>>x<<end>>.", PERSON)).isEqualTo("None: .");
    }
}

package remitto.server.installation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A configuration file is read to the line, and what is written says everything that can be set. */
class ConfigurationFileTest {
    @TempDir
    private Path folder;

    @BeforeEach
    void secrets() throws IOException {
        Files.writeString(folder.resolve("database.password"), "hush-1\n");
        Files.writeString(folder.resolve("people.password"), "hush-2\n");
    }

    private Path file(String text) throws IOException {
        return Files.writeString(folder.resolve("remitto.yaml"), text);
    }

    private List<String> faults(String text) throws IOException {
        Path file = file(text);
        return catchThrowableOfType(ConfigurationFault.class, () -> ConfigurationFile.read(file)).lines().stream()
                .map(Object::toString)
                .toList();
    }

    @Test
    void whatIsWrittenHasEverySettingWithItsDefaultAndCanBeRead() throws IOException {
        String text = ConfigurationText.of(Map.of("listen.port", "8700"));
        for (Setting setting : Setting.all()) {
            assertThat(text).contains(setting.words().get(0)).contains("Default: " + setting.usual());
        }
        Map<String, Object> read = ConfigurationFile.read(file(text));
        assertThat(read)
                .containsOnlyKeys(Setting.all().stream().map(Setting::key).toList());
        assertThat(read).containsEntry("listen.port", 8700).containsEntry("departures", "true");
        assertThat(text).doesNotContain("halvorn", "Europe", "purser");
    }

    @Test
    void whatIsLeftOutHasItsDefaultAndPathsBeginAtTheFile() throws IOException {
        Map<String, String> properties =
                ConfigurationFile.properties(file("outgoing_allowed: [10.0.0.5, crm.local]\n"));
        assertThat(properties)
                .containsEntry("server.port", "8640")
                .containsEntry("server.address", "127.0.0.1")
                .containsEntry("remitto.outgoing-allowed", "10.0.0.5,crm.local")
                .containsEntry(
                        "remitto.secret-key-file", folder.resolve("secret.key").toString())
                .containsEntry("spring.datasource.password", "hush-1")
                .containsEntry("remitto.people-reader.password", "hush-2")
                .containsEntry("remitto.stand-ins", "false")
                .doesNotContainKey("");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "listen: {prot: 1} | line 1: there is no setting listen.prot. Did you mean listen.port?",
                "lissten: 1 | line 1: there is no setting lissten.",
                "listen: {port: 70000} | line 1: listen.port must be a whole number from 1 to 65535.",
                "listen: 8640 | line 1: listen is a section; write its settings below it, indented.",
                "departures: yes | line 1: departures must be true or false.",
                "outbox: [a] | line 1: outbox must be the path of a file or folder.",
                "let_in_origins: x | line 1: let_in_origins must be a list of texts.",
                "session: {idle: long} | line 1: session.idle must be a length of time such as 12h or 30m.",
                "memory_mb: 100 | line 1: memory_mb must be a whole number of megabytes, at least 512.",
                "database: {url: 'jdbc:other:x'} | line 1: database.url must begin with jdbc:postgresql://.",
                "departures: true, departures: false | line 1: this is not YAML: mapping values are not allowed here."
            })
    void everythingThatIsWrongNamesItsLine(String text, String fault) throws IOException {
        assertThat(faults(text)).contains(fault);
    }

    @Test
    void allFaultsAreToldAtOnce() throws IOException {
        assertThat(faults("""
                listen:
                  port: soon
                  port: 8640
                departures: true
                departures: false
                nonsense: 1
                """))
                .containsExactly(
                        "line 2: listen.port must be a whole number from 1 to 65535.",
                        "line 3: listen.port appears twice.",
                        "line 5: departures appears twice.",
                        "line 6: there is no setting nonsense.");
        Files.delete(folder.resolve("people.password"));
        assertThat(faults("departures: true\n"))
                .singleElement()
                .asString()
                .startsWith("database.people_password_file names ")
                .endsWith("which cannot be read.");
    }

    @Test
    void whatIsNoConfigurationIsToldWithoutBeingTakenApart() throws IOException {
        assertThat(faults("x".repeat(200_001))).singleElement().asString().contains("more than 200000 bytes");
        assertThat(faults("a: [1, 2")).singleElement().asString().startsWith("line ");
        assertThat(faults("- 1\n")).containsExactly("line 1: the file must hold settings, one a line.");
        assertThatThrownBy(() -> ConfigurationFile.read(folder.resolve("none.yaml")))
                .isInstanceOf(ConfigurationFault.class)
                .hasMessageContaining("cannot be read");
        String bomb = "a: &a [x, x]\nb: &b [*a, *a]\nc: &c [*b, *b]\n";
        assertThat(faults(bomb)).hasSize(3);
    }

    @ParameterizedTest
    @CsvSource({
        "jdbc:postgresql://127.0.0.1:5432/remitto, jdbc:postgresql://127.0.0.1:5432/remitto",
        "jdbc:postgresql://localhost/remitto, jdbc:postgresql://localhost/remitto",
        "jdbc:postgresql://db.company.example/remitto, jdbc:postgresql://db.company.example/remitto?sslmode=require",
        "jdbc:postgresql://db.company.example/remitto?a=b, jdbc:postgresql://db.company.example/remitto?a=b&sslmode=require",
        "jdbc:postgresql://db.company.example/r?sslmode=verify-full, jdbc:postgresql://db.company.example/r?sslmode=verify-full"
    })
    void theDatabaseIsSpokenToWithTlsBeyondThisMachine(String told, String used) {
        assertThat(ConfigurationFile.encrypted(told)).isEqualTo(used);
    }
}

package remitto.server.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Properties;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.config.YamlPropertiesFactoryBean;
import org.springframework.core.io.ClassPathResource;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.util.PropertyPlaceholderHelper;

/** How passwords are kept. The least cost is from OWASP's Password Storage Cheat Sheet: Argon2id, 19 MiB, 2 passes, 1 lane. */
class PasswordHashTest {
    private static final String PASSWORD = "quay-lantern-77-otter";

    private static int byDefault() {
        YamlPropertiesFactoryBean yaml = new YamlPropertiesFactoryBean();
        yaml.setResources(new ClassPathResource("application.yaml"));
        String setting = yaml.getObject().getProperty("remitto.password-memory-kb");
        return Integer.parseInt(new PropertyPlaceholderHelper("${", "}", ":", null, false)
                .replacePlaceholders(setting, new Properties()));
    }

    private static PasswordEncoder encoder(int memoryKb) {
        return new SecurityConfiguration().passwordEncoder(memoryKb);
    }

    @Test
    void byDefaultAHashTakesWhatIsAdvised() {
        String hash = encoder(byDefault()).encode(PASSWORD);
        assertThat(hash).startsWith("$argon2id$v=19$m=19456,t=2,p=1$");
        assertThat(encoder(byDefault()).matches(PASSWORD, hash)).isTrue();
        assertThat(encoder(byDefault()).matches(PASSWORD + "s", hash)).isFalse();
    }

    @Test
    void aHashOfAnotherSettingStaysValid() {
        String before = Argon2PasswordEncoder.defaultsForSpringSecurity_v5_8().encode(PASSWORD);
        assertThat(before).contains("m=16384");
        assertThat(encoder(byDefault()).matches(PASSWORD, before)).isTrue();
        assertThat(encoder(64).matches(PASSWORD, before)).isTrue();
        assertThat(encoder(byDefault()).matches(PASSWORD, encoder(64).encode(PASSWORD)))
                .isTrue();
    }

    @Test
    void twoHashesOfOnePasswordDiffer() {
        assertThat(encoder(64).encode(PASSWORD)).isNotEqualTo(encoder(64).encode(PASSWORD));
    }
}

package remitto.server.platform;

import java.net.http.HttpClient;
import java.time.Clock;
import java.time.Duration;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.boot.jackson.autoconfigure.JsonMapperBuilderCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.profile.ProfileReader;
import tools.jackson.databind.DeserializationFeature;

/** Beans that every capability may use. */
@Configuration
class PlatformConfiguration {
    @Bean
    @ConditionalOnMissingBean
    Clock clock() {
        return Clock.systemUTC();
    }

    @Bean
    JsonMapperBuilderCustomizer exactNumbers() {
        return builder -> builder.enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
                .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES);
    }

    @Bean
    HttpClient httpClient() {
        return HttpClient.newBuilder()
                .version(HttpClient.Version.HTTP_1_1)
                .connectTimeout(Duration.ofSeconds(5))
                .followRedirects(HttpClient.Redirect.NEVER)
                .build();
    }

    @Bean
    AddressGuard addressGuard(RemittoProperties properties) {
        return new AddressGuard(properties.outgoingAllowed());
    }

    @Bean
    ProfileReader profileReader() {
        return new ProfileReader();
    }
}

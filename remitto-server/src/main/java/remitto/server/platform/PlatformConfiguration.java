package remitto.server.platform;

import java.time.Clock;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.boot.jackson.autoconfigure.JsonMapperBuilderCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.dao.CannotAcquireLockException;
import org.springframework.jdbc.support.SQLExceptionSubclassTranslator;
import org.springframework.jdbc.support.SQLExceptionTranslator;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.outgoing.HttpCalls;
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

    /** Spring knows no meaning of PostgreSQL's 55P03 (a lock that was waited for too long; manual, appendix A). */
    @Bean
    SQLExceptionTranslator databaseErrors() {
        SQLExceptionSubclassTranslator translator = new SQLExceptionSubclassTranslator();
        translator.setCustomTranslator((task, sql, e) -> "55P03".equals(e.getSQLState())
                ? new CannotAcquireLockException(task + ": " + e.getMessage(), e)
                : null);
        return translator;
    }

    @Bean
    JsonMapperBuilderCustomizer exactNumbers() {
        return builder -> builder.enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
                .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES);
    }

    @Bean
    HttpCalls httpCalls(AddressGuard guard) {
        return new HttpCalls(guard);
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

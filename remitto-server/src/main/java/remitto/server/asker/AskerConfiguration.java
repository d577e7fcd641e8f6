package remitto.server.asker;

import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

@Configuration
class AskerConfiguration {
    @Bean
    WebServerFactoryCustomizer<TomcatServletWebServerFactory> askersAreSeen(Askers askers) {
        return factory -> factory.addEngineValves(new AskerValve(askers));
    }
}

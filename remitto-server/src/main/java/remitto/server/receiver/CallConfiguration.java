package remitto.server.receiver;

import org.springframework.boot.web.servlet.ServletRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The way in of calls, beside the pages and the API: nobody signs in there. */
@Configuration
class CallConfiguration {
    /** The path that addresses of receivers begin with. */
    static final String PATH = "/in/";

    @Bean
    ServletRegistrationBean<CallServlet> calls(CallServlet servlet) {
        return new ServletRegistrationBean<>(servlet, PATH + "*");
    }
}
